import { useDraft } from "../../data/draft";
import { View } from "@tamagui/core";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { fetchReport, fetchZones, NoReport } from "../../data/supplier";
import { Choice, PlainButton, TextButton } from "../../ui/boxes";
import { Body } from "../../ui/words";
import type { OpenedReport } from "./report-file";

/** Fetches a zone's report; while it waits it can be given up, and whatever happens the form stays as it is. */
export function SupplierPart({
  on,
  onReport,
}: {
  readonly on: string;
  readonly onReport: (report: OpenedReport) => void;
}) {
  const [{ zone }, patch] = useDraft<{ readonly zone?: string }>("supplier-zone", {});
  const setZone = (id: string) => patch({ zone: id });
  const [trouble, setTrouble] = useState<string>();
  const [asking, setAsking] = useState(false);
  const asked = useRef<AbortController | undefined>(undefined);
  useEffect(() => () => asked.current?.abort(), []);
  const zones = useQuery({
    queryKey: ["supplier", "zones"],
    queryFn: ({ signal }) => fetchZones(signal),
    retry: false,
    staleTime: 60_000,
    networkMode: "always",
  });
  const chosen = zone ?? zones.data?.[0]?.id;

  const ask = async () => {
    if (!chosen) return;
    const controller = new AbortController();
    asked.current = controller;
    setAsking(true);
    setTrouble(undefined);
    try {
      const report = await fetchReport(chosen, on, controller.signal);
      onReport({ lines: report.values, sampledOn: report.sampledOn, origin: report.name });
    } catch (error) {
      if (!controller.signal.aborted)
        setTrouble(error instanceof NoReport ? error.message : "It did not work; try again.");
    } finally {
      if (asked.current === controller) setAsking(false);
    }
  };
  const giveUp = () => {
    asked.current?.abort();
    setAsking(false);
  };
  const words = trouble ?? (zones.error ? zones.error.message : undefined);
  return (
    <View gap="$3" testID="supplier">
      {zones.data ? (
        <Choice
          label="Supply zone"
          value={chosen}
          options={zones.data.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setZone}
        />
      ) : null}
      {zones.isPending ? <Body role="status">Asking the supplier’s service for its zones…</Body> : null}
      {words ? (
        <Body role="alert" color="$rowan" testID="supplier-trouble">
          {words}
        </Body>
      ) : null}
      {zones.error ? <TextButton onPress={() => void zones.refetch()}>Ask again</TextButton> : null}
      {asking ? (
        <View flexDirection="row" gap="$3" alignItems="center">
          <Body role="status">Fetching the report…</Body>
          <TextButton onPress={giveUp}>Give up</TextButton>
        </View>
      ) : zones.data ? (
        <PlainButton onPress={() => void ask()} testID="fetch-report">
          Fetch the report
        </PlainButton>
      ) : null}
    </View>
  );
}
