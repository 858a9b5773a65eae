import { View } from "@tamagui/core";
import { memo, useEffect, useMemo, useRef, useState } from "react";
import { useSettings } from "../../data/settings";
import { Choice, Pressable, TextButton } from "../../ui/boxes";
import { download } from "../../ui/files";
import { litres as litresWords, scaleUnit, threeDigits, toShown, unitOf, type Units } from "../../ui/format";
import { Measured } from "../../ui/Measured";
import { usePalette } from "../../ui/palette";
import { Big, Body, Heading, Small, Strong } from "../../ui/words";
import { BedDrawing, bedWidth } from "./BedDrawing";
import type { LabRun } from "./lab-run";
import { Player, usePlaying, usePosition } from "./player";
import { LETTERS, ProductChart } from "./ProductChart";
import { VARIANT_WORDS, type LabSetup } from "./variants";
import { onDemand } from "../on-demand-piece";

/** What lasts many times longer than the bed shown would squeeze it; it is cut off here until it is shown itself. */
const MOST_OF_SHOWN = 2.5;

/** Litres on the film and the chart: a little beyond what matters of the longest run. */
export function filmLitres(runs: readonly LabRun[], shownRun: LabRun): number {
  const endOf = (run: LabRun) => Math.min(run.totalLitres, 1.3 * (run.ends.litresToLimit ?? run.totalLitres));
  return Math.max(1, Math.min(Math.max(...runs.map(endOf)), MOST_OF_SHOWN * endOf(shownRun)));
}

/** What leaves the bed where the film stands. */
function Readout({ run, player, until, limit }: ReadoutProps) {
  const litres = usePosition(player) * until;
  const row = Math.max(
    0,
    run.litres.findLastIndex((at) => at <= litres),
  );
  const figures = [
    { name: `out, ${scaleUnit(limit.scale)}`, value: run.ppm[row]! },
    { name: "silica, mg/L", value: run.silica[row]! },
    { name: "ammonia, mg/L", value: run.ammonia[row]! },
    { name: "pH", value: run.ph[row]! },
  ];
  return (
    <View gap="$2" flex={1} minWidth={96} paddingTop={28} testID="lab-readout">
      {figures.map(({ name, value }) => (
        <View key={name}>
          <Small>{name}</Small>
          <Strong fontSize="$4">{value < 0.0005 ? "0" : threeDigits(Number(value.toFixed(3)))}</Strong>
        </View>
      ))}
    </View>
  );
}

interface ReadoutProps {
  readonly run: LabRun;
  readonly player: Player;
  readonly until: number;
  readonly limit: LabSetup["limit"];
}

function Slider({ player, until, units }: { readonly player: Player; readonly until: number; readonly units: Units }) {
  const { ink } = usePalette();
  const share = usePosition(player);
  const now = litresWords(share * until, units);
  return (
    <View flex={1} minWidth={0} gap={2}>
      <input
        type="range"
        min={0}
        max={1000}
        value={Math.round(share * 1000)}
        onChange={(event) => player.seek(Number(event.target.value) / 1000)}
        aria-label="Litres treated"
        aria-valuetext={now}
        data-testid="lab-slider"
        style={{ width: "100%", height: 36, accentColor: ink, margin: 0 }}
      />
      <Strong testID="lab-now">{now}</Strong>
    </View>
  );
}

function Controls({
  player,
  until,
  units,
}: {
  readonly player: Player;
  readonly until: number;
  readonly units: Units;
}) {
  const playing = usePlaying(player);
  return (
    <View flexDirection="row" gap="$3" alignItems="center">
      <Pressable
        onPress={() => (playing ? player.pause() : player.play())}
        testID="lab-play"
        aria-label={playing ? "Pause" : "Play"}
        backgroundColor="$ink"
        borderRadius="$3"
        width={84}
        height={52}
      >
        <Strong color="$onInk">{playing ? "Pause" : "Play"}</Strong>
      </Pressable>
      <Slider player={player} until={until} units={units} />
    </View>
  );
}

const days = (litres: number, perDay: number) => {
  const count = Math.round(litres / perDay);
  return `${count.toLocaleString("en-US")} ${count === 1 ? "day" : "days"}`;
};

/** Water for each unit of resin, the fair measure between variants with more or less of it. */
function perResinWords(litres: number, resin: number, units: Units): string {
  const each = toShown("volume", litres, units) / toShown("resinVolume", resin, units);
  return `${threeDigits(each)} ${unitOf("volume", units)} for each ${unitOf("resinVolume", units)} of resin.`;
}

/** What a variant gives against the first, in litres and days. */
function differenceWords(run: LabRun, first: LabRun, perDay: number, units: Units): string | undefined {
  const [a, b] = [first.ends.litresToLimit, run.ends.litresToLimit];
  if (run === first || a === undefined || b === undefined) return undefined;
  const litres = b - a;
  if (Math.abs(litres) < 0.005 * a) return "as long as the first";
  return `${litresWords(Math.abs(litres), units)} (${days(Math.abs(litres), perDay)}) ${litres > 0 ? "more" : "less"} than the first`;
}

function Outcome({
  run,
  first,
  letter,
  setup,
  units,
}: {
  readonly run: LabRun;
  readonly first: LabRun;
  readonly letter: string;
  readonly setup: LabSetup;
  readonly units: Units;
}) {
  const { ends, resin } = run;
  const leak = Math.min(ends.litresToSilica ?? Infinity, ends.litresToAmmonia ?? Infinity);
  const leaker = leak === ends.litresToSilica ? "silica" : "ammonia";
  const difference = differenceWords(run, first, setup.litresPerDay, units);
  const value = (litres: number | undefined) =>
    litres === undefined ? "not in this run" : litres === 0 ? "from the start" : litresWords(litres, units);
  return (
    <View borderTopColor="$line" borderTopWidth={1} paddingVertical="$3" gap={2} testID={`outcome-${run.variant}`}>
      <Strong>{`${letter}. ${VARIANT_WORDS[run.variant].name}`}</Strong>
      <Small>{VARIANT_WORDS[run.variant].what}</Small>
      <View flexDirection="row" flexWrap="wrap" columnGap="$5" rowGap="$1">
        <View>
          <Small>until the meter shows it</Small>
          <Big fontSize="$4" lineHeight="$4" testID={`meter-life-${run.variant}`}>
            {value(ends.litresToLimit)}
          </Big>
        </View>
        <View>
          <Small>until {leak === Infinity ? "silica or ammonia" : leaker} passes its mark</Small>
          <Big fontSize="$4" lineHeight="$4" testID={`leak-life-${run.variant}`}>
            {value(leak === Infinity ? undefined : leak)}
          </Big>
        </View>
      </View>
      {ends.silentWindow ? (
        <Body>{`For ${litresWords(ends.silentWindow, units)} (${days(ends.silentWindow, setup.litresPerDay)}) ${leaker} leaks and the meter shows nothing.`}</Body>
      ) : null}
      {difference ? <Body>{`The meter’s limit comes ${difference}.`}</Body> : null}
      {run.changedAt === undefined ? null : (
        <Body>{`The lead was changed at ${litresWords(run.changedAt, units)}.`}</Body>
      )}
      {ends.litresToLimit ? <Small>{perResinWords(ends.litresToLimit, resin, units)}</Small> : null}
      {run.warnings.map((words) => (
        <Body key={words} role="note">
          {words}
        </Body>
      ))}
    </View>
  );
}

function Exports({ runs, setup }: { readonly runs: readonly LabRun[]; readonly setup: LabSetup }) {
  const { card } = usePalette();
  const drawings = () =>
    ["lab-bed", "lab-chart"].flatMap((id) => [...document.querySelectorAll<SVGSVGElement>(`svg[data-testid="${id}"]`)]);
  const saveCsv = async () => {
    const { labCsv } = await onDemand();
    download("winter-bead-lab.csv", labCsv(runs, setup.limit.scale), "text/csv");
  };
  const savePicture = async (format: "svg" | "png") => {
    const { asPng, picture } = await onDemand();
    const svg = await picture(drawings(), card);
    download(`winter-bead-lab.${format}`, format === "svg" ? svg : await asPng(svg), "image/svg+xml");
  };
  return (
    <View flexDirection="row" flexWrap="wrap" gap="$5">
      <TextButton onPress={() => void saveCsv()} testID="lab-csv">
        Run as CSV
      </TextButton>
      <TextButton onPress={() => void savePicture("svg")} testID="lab-svg">
        Picture as SVG
      </TextButton>
      <TextButton onPress={() => void savePicture("png")} testID="lab-png">
        Picture as PNG
      </TextButton>
    </View>
  );
}

/** Starts a new run's film at its first litre; for those who asked their device for less motion it waits for Play. */
function useFilmFromStart(player: Player, runs: readonly LabRun[]): void {
  useEffect(() => {
    player.seek(0);
    if (!globalThis.matchMedia?.("(prefers-reduced-motion: reduce)").matches) player.play();
    return () => player.pause();
  }, [player, runs]);
}

/** The film of the beds, the product below it, and what each variant comes to. */
export const LabResults = memo(function LabResults({
  runs,
  setup,
}: {
  readonly runs: readonly LabRun[];
  readonly setup: LabSetup;
}) {
  const { units } = useSettings();
  const player = useRef<Player>(undefined);
  player.current ??= new Player();
  useFilmFromStart(player.current, runs);
  const [watched, setWatched] = useState<string>();
  const focus = runs.find((run) => run.variant === watched) ?? runs[0]!;
  const until = useMemo(() => filmLitres(runs, focus), [runs, focus]);
  const letter = LETTERS[runs.indexOf(focus)] ?? "A";
  const limit = focus.ends.litresToLimit;
  const words = `${VARIANT_WORDS[focus.variant].name}: the limit is reached after ${limit === undefined ? "more than this run" : litresWords(limit, units)}`;
  return (
    <View gap="$4" testID="lab-results">
      {runs.length > 1 ? (
        <Choice
          label="Bed shown"
          value={focus.variant}
          options={runs.map((run, i) => ({
            value: run.variant,
            label: `${LETTERS[i]} ${VARIANT_WORDS[run.variant].name}`,
          }))}
          onChange={setWatched}
        />
      ) : null}
      <Measured>
        {(width) => (
          <View flexDirection="row" gap="$4">
            <BedDrawing
              run={focus}
              until={until}
              player={player.current!}
              width={bedWidth(focus, width)}
              label={`Bed ${letter}. ${words}`}
            />
            <Readout run={focus} player={player.current!} until={until} limit={setup.limit} />
          </View>
        )}
      </Measured>
      <Small>
        Left the cation beads, right the anion beads, water from the top. Pale is free; the darker, the harder held.
      </Small>
      <Controls player={player.current} until={until} units={units} />
      <Measured>
        {(width) => (
          <ProductChart
            runs={runs}
            focus={focus}
            limit={setup.limit}
            marks={setup.marks}
            until={until}
            player={player.current!}
            width={width}
            units={units}
            label={words}
          />
        )}
      </Measured>
      <View>
        <Heading>What it comes to</Heading>
        {runs.map((run, i) => (
          <Outcome key={run.variant} run={run} first={runs[0]!} letter={LETTERS[i]!} setup={setup} units={units} />
        ))}
        <Small>
          {`School: two exchangers in one bed, film control, constant separation factors (Helfferich 1962; Hall et al. 1966). ${Math.max(...runs.map((run) => run.balanceError)) < 1e-9 ? "What went in, stayed and left agrees to a billionth." : "What went in, stayed and left does not agree; please report this run."}`}
        </Small>
      </View>
      <Exports runs={runs} setup={setup} />
    </View>
  );
});
