import { useDraft } from "../../data/draft";
import { View } from "@tamagui/core";
import { PART, type Part, type PlannedDay, type PlannedTask, type Task, type WeeksAhead } from "@winter-bead/core";
import { explainDay, type DayCost } from "@winter-bead/core/src/weeks";
import { useSettings } from "../../data/settings";
import { useRecords } from "../../data/store";
import { Card, PlainButton, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { Body, Small, Strong } from "../../ui/words";
import { useOpened, type Opened } from "./opened";
import { decline, giveUp, serviced, setFor } from "./deeds";
import { capital } from "../../ui/format";
import { DateField } from "../../ui/pickers";
import {
  dayCostWords,
  dayLoad,
  dayName,
  dueWords,
  fullDay,
  resinWords,
  tasksWords,
  taskWords,
  whyThisDay,
} from "./words";

type Names = Parameters<typeof taskWords>[1];

const isPart = (task: Task): task is Part => task in PART.of;

/** How a task is done: a refill and a meter check have their own places, a service is noted here. */
function DoIt({ task, names, today }: { readonly task: PlannedTask; readonly names: Names; readonly today: boolean }) {
  if (!today || task.task === "refill") return null;
  if (task.task === "meter") return <TextButton href="/water/meters">Check it now</TextButton>;
  if (!isPart(task.task)) return null;
  const part = task.task;
  return (
    <>
      {part === "sediment" || part === "carbon" || part === "membrane" ? (
        <TextButton href={`/refill?rig=${task.rigId}&what=${part}`} label={`${taskWords(task, names)}: lead me`}>
          Lead me
        </TextButton>
      ) : null}
      <TextButton
        onPress={() => void serviced(task.rigId!, part, `${taskWords(task, names)}: done.`)}
        label={`${taskWords(task, names)}: it is done`}
        testID={`done-${part}`}
      >
        It is done
      </TextButton>
    </>
  );
}

/** One task with its reasons, its working, and the way to do it. */
function TaskLines({
  task,
  ahead,
  names,
  isToday,
}: {
  readonly task: PlannedTask;
  readonly ahead: WeeksAhead;
  readonly names: Names;
  readonly isToday: boolean;
}) {
  const { units } = useSettings();
  const explanation = explainDay(task, ahead);
  const refill = ahead.rigs.find(({ rigId }) => rigId === task.rigId);
  const minutes =
    task.task === "refill" && refill && refill.minutes.of > 0
      ? `${Math.round(task.minutes)} min: the middle of your last ${refill.minutes.of} refills.`
      : `${Math.round(task.minutes)} min.`;
  return (
    <View gap={2}>
      <Strong>{taskWords(task, names)}</Strong>
      <Body color="$soft">
        {[task.due ? capital(dueWords(task.due, ahead.today, units)) : whyThisDay(task, ahead.currency), minutes].join(
          " ",
        )}
      </Body>
      <View flexDirection="row" flexWrap="wrap" columnGap="$4" alignItems="center">
        <DoIt task={task} names={names} today={isToday} />
        {explanation ? <Explained explanation={explanation} label="What this day costs" /> : null}
      </View>
    </View>
  );
}

/** Days that could be taken instead: those that cost least, in the order of the calendar. */
const OTHER_DAYS = 6;
function otherDays(day: PlannedDay): readonly { readonly on: string; readonly words: (currency: string) => string }[] {
  const weighed = day.tasks.filter(({ costs }) => costs.length > 0);
  const [first] = weighed;
  if (!first) return [];
  const at = (on: string) => weighed.map(({ costs }) => costs.find((each) => each.on === on));
  const sum = (on: string): DayCost =>
    at(on).reduce<DayCost>(
      (all, each) => ({
        ...all,
        early: all.early + each!.early,
        late: all.late + each!.late,
        time: all.time + each!.time,
      }),
      { ...first.costs[0]!, on, early: 0, late: 0, time: 0 },
    );
  const best = sum(day.on);
  return first.costs
    .filter(({ on }) => on !== day.on && at(on).every((each) => each !== undefined))
    .map(({ on }) => ({ on, cost: sum(on) }))
    .sort((a, b) => a.cost.early + a.cost.late + a.cost.time - (b.cost.early + b.cost.late + b.cost.time))
    .slice(0, OTHER_DAYS)
    .sort((a, b) => (a.on < b.on ? -1 : 1))
    .map(({ on, cost }) => ({ on, words: (currency) => dayCostWords(cost, best, currency) }));
}

/** Any other day, by the platform's own picker. */
function AnyDay({ day, onTake }: { readonly day: PlannedDay; readonly onTake: (on: string) => void }) {
  const [{ on }, patch, clear] = useDraft(`any-day:${day.on}`, { on: day.on });
  const setOn = (date: string) => patch({ on: date });
  const isOther = /^\d{4}-\d{2}-\d{2}$/.test(on) && on !== day.on;
  return (
    <View gap="$2">
      <DateField label="Or on" value={on} onChange={setOn} testID="any-day" />
      {isOther ? (
        <PlainButton
          onPress={() => {
            onTake(on);
            clear();
          }}
          testID="take-any-day"
        >
          {`Set for ${fullDay(on)}`}
        </PlainButton>
      ) : null}
    </View>
  );
}

/** What is set for a day, or what is proposed for it: accepted, moved or declined by one act. */
function TasksOfDay({
  day,
  isSet,
  ahead,
  names,
}: {
  readonly day: PlannedDay;
  readonly isSet: boolean;
  readonly ahead: WeeksAhead;
  readonly names: Names;
}) {
  const { records: known } = useRecords("appointments");
  const [opened, open] = useOpened(`${day.on} ${isSet ? "set" : "proposed"}`);
  const move = (on: string) => {
    open(undefined);
    void setFor(on, day.tasks, known);
  };
  const toggle = (what: Opened) => open(opened === what ? undefined : what);
  const set = day.tasks.flatMap(({ accepted }) => known.filter(({ id }) => id === accepted?.id));
  const refill = day.tasks.find(({ task }) => task === "refill");
  const isToday = day.on <= ahead.today;
  return (
    <View gap="$1" testID={isSet ? "set" : "proposed"}>
      {isSet ? <Small>{`Set for this day: ${dayLoad(day)}`}</Small> : null}
      <Strong testID="tasks">{tasksWords(day.tasks, names)}</Strong>
      {refill && !isSet ? <Body color="$soft">{whyThisDay(refill, ahead.currency)}</Body> : null}
      {refill && resinWords(refill, ahead) !== "" ? (
        <Body testID="resin-missing">{resinWords(refill, ahead)}</Body>
      ) : null}
      {isToday && refill ? (
        <PlainButton href={`/refill?rig=${refill.rigId}&what=refill`} testID="start-refill">
          Start the refill
        </PlainButton>
      ) : null}
      <View flexDirection="row" flexWrap="wrap" columnGap="$4" alignItems="center">
        {isSet ? (
          <TextButton onPress={() => void giveUp(set)} testID="give-up">
            Not any more
          </TextButton>
        ) : (
          <TextButton onPress={() => move(day.on)} testID="take-day">
            {`Take ${dayName(day.on)}`}
          </TextButton>
        )}
        <TextButton onPress={() => toggle("days")} expanded={opened === "days"} testID="another-day">
          Another day
        </TextButton>
        <TextButton onPress={() => toggle("why")} expanded={opened === "why"} testID="why-day">
          {isSet ? "Look closer" : "Why"}
        </TextButton>
      </View>
      {opened === "days" ? (
        <View gap="$1" testID="other-days">
          {otherDays(day).map(({ on, words }) => (
            <TextButton key={on} onPress={() => move(on)} testID={`take-${on}`}>
              {words(ahead.currency)}
            </TextButton>
          ))}
          <AnyDay day={day} onTake={move} />
          {isSet ? null : (
            <TextButton
              onPress={() => {
                open(undefined);
                void decline(day.on, day.tasks, known);
              }}
              testID="decline-day"
            >
              {`Not on this ${dayName(day.on)}: look for another`}
            </TextButton>
          )}
        </View>
      ) : null}
      {opened === "why"
        ? day.tasks.map((task) => (
            <TaskLines
              key={`${task.task} ${task.rigId ?? task.meterId}`}
              task={task}
              ahead={ahead}
              names={names}
              isToday={isToday || isSet}
            />
          ))
        : null}
    </View>
  );
}

const withTasks = (day: PlannedDay, tasks: readonly PlannedTask[]): PlannedDay => ({
  ...day,
  tasks,
  minutes: tasks.reduce((sum, { minutes }) => sum + minutes, 0),
});

/** A day of the plan: what is set for it, and what is proposed beside. */
export function PlanCard({
  day,
  ahead,
  names,
}: {
  readonly day: PlannedDay;
  readonly ahead: WeeksAhead;
  readonly names: Names;
}) {
  const set = day.tasks.filter(({ accepted }) => accepted);
  const proposed = day.tasks.filter(({ accepted }) => !accepted);
  return (
    <Card testID={`plan-${day.on}`} borderColor="$ink" gap="$3" marginBottom="$2" paddingVertical="$3">
      {set.length > 0 ? <TasksOfDay day={withTasks(day, set)} isSet ahead={ahead} names={names} /> : null}
      {proposed.length > 0 ? (
        <TasksOfDay day={withTasks(day, proposed)} isSet={false} ahead={ahead} names={names} />
      ) : null}
    </Card>
  );
}
