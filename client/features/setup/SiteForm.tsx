import type { Site } from "@winter-bead/core";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { change } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { useRecordForm } from "../../forms/useRecordForm";
import { KeepRow } from "../../forms/WaysOut";

/** Where taps are: its name and what is to be known of it. */
export function SiteForm({ site }: { readonly site: Kept<"sites"> }) {
  const parts = useMemo(() => ({ site: { kind: "sites" as const, before: site } }), [site]);
  const form = useRecordForm({ name: `site:${site.id}`, parts });
  const save = () =>
    keepTyped(form, async (bodies) => ({
      ...(await change("sites", site, bodies["site"] as unknown as Site)),
      ...{ words: `Changed: ${site.name}.`, away: "/setup" },
    }));
  return (
    <RecordForm form={form}>
      <RecordField form={form} path="site.name" label="Name of the site" />
      <RecordField form={form} path="site.note" />
      <KeepRow form={form} kind="sites" record={site} away="/setup" onKeep={save}>
        Keep the change
      </KeepRow>
    </RecordForm>
  );
}
