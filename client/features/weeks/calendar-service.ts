import { useQuery } from "@tanstack/react-query";
import { ask } from "../../data/api";

/** What stands at a calendar's address; the server fetches it. @throws Refused with the reason, OutOfReach without a signal */
export const fetchCalendar = async (address: string): Promise<string> =>
  (await ask<{ text: string }>(`/calendar/outside?address=${encodeURIComponent(address)}`)).text;

/** The address of the simulated calendar that ships with this; nothing where the server has none. */
export function useSampleCalendar(): string | undefined {
  const { data } = useQuery({
    queryKey: ["calendar-sample"],
    queryFn: ({ signal }) => ask<{ address?: string }>("/calendar/sample", { signal }),
    retry: false,
  });
  return data?.address;
}

/** An address under which the crew's calendar may be read. */
export interface Feed {
  readonly id: string;
  readonly name: string;
  readonly madeAt: string;
  readonly readAt?: string;
}

export const FEEDS = ["calendar-feeds"];

export const fetchFeeds = async (signal?: AbortSignal): Promise<readonly Feed[]> =>
  (await ask<{ items: readonly Feed[] }>("/calendar/feeds", signal ? { signal } : {})).items;

/** Makes an address; it is told this once, and only its hash is kept. */
export const makeFeed = (name: string): Promise<Feed & { readonly path: string }> =>
  ask("/calendar/feeds", {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ name }),
  });

export const revokeFeed = (id: string): Promise<unknown> => ask(`/calendar/feeds/${id}`, { method: "DELETE" });

/** A mail as the stand-in got it. */
export interface SentMail {
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly at: string;
}

/** What the simulated mailbox got; `real` where mail goes out for real. */
export interface SentMails {
  readonly real: boolean;
  readonly items: readonly SentMail[];
  /** What went wrong with the mails when they were last looked at. */
  readonly trouble?: { readonly at: string; readonly words: string };
}

export const fetchMailbox = (signal?: AbortSignal): Promise<SentMails> =>
  ask("/reminders-sent", signal ? { signal } : {});
