import { EntitySchema } from "typeorm";

export interface FeedRow {
  crewId: string;
  id: string;
  name: string;
  secretHash: Buffer;
  madeAt: Date;
  revokedAt: Date | null;
  readAt: Date | null;
}

/** Addresses under which a crew's calendar may be read; of a secret only its hash is kept. */
export const FEEDS = new EntitySchema<FeedRow>({
  name: "calendar_feed",
  tableName: "calendar_feed",
  columns: {
    crewId: { name: "crew_id", type: "uuid", primary: true },
    id: { type: "uuid", primary: true },
    name: { type: "text" },
    secretHash: { name: "secret_hash", type: "bytea" },
    madeAt: { name: "made_at", type: "timestamptz", precision: 3 },
    revokedAt: { name: "revoked_at", type: "timestamptz", precision: 3, nullable: true },
    readAt: { name: "read_at", type: "timestamptz", precision: 3, nullable: true },
  },
});

export interface SentRow {
  crewId: string;
  about: string;
  sentAt: Date;
}

/** What was mailed, by what it was about: nothing is mailed twice. */
export const SENT = new EntitySchema<SentRow>({
  name: "reminder_sent",
  tableName: "reminder_sent",
  columns: {
    crewId: { name: "crew_id", type: "uuid", primary: true },
    about: { type: "text", primary: true },
    sentAt: { name: "sent_at", type: "timestamptz", precision: 3 },
  },
});
