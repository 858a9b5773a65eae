type Json = { readonly [key: string]: unknown };
type Responses = (description: string) => Json;

const textJson = (properties: Json, required: readonly string[] = Object.keys(properties)) => ({
  "application/json": { schema: { type: "object", properties, required } },
});
const string = { type: "string" };
const moment = { type: "string", format: "date-time" };
const feed = { id: { type: "string", format: "uuid" }, name: string, madeAt: moment, readAt: moment };
const feedSchema = { type: "object", properties: feed, required: ["id", "name", "madeAt"] };

const mailboxPath = (problem: Responses): Json => ({
  "/api/v1/reminders-sent": {
    get: {
      operationId: "reminders-sent",
      summary:
        "What the simulated mailbox got, nothing where mail goes out for real; and what went wrong with the mails lately",
      tags: ["calendar"],
      responses: {
        "200": {
          description: "Mails, the newest first",
          content: textJson(
            {
              real: { type: "boolean" },
              items: {
                type: "array",
                items: { type: "object", properties: { to: string, subject: string, text: string, at: moment } },
              },
              trouble: { type: "object", properties: { at: moment, words: string } },
            },
            ["real", "items"],
          ),
        },
        "503": problem("The simulated mailbox is out of order for a moment"),
      },
    },
  },
});

/** Calendars in and out, and what the simulated mailbox got. */
export const calendarPaths = (problem: Responses, again: Json): Json => ({
  "/api/v1/calendar/outside": {
    get: {
      operationId: "calendar-outside",
      summary: "What stands at the address of somebody else's calendar",
      tags: ["calendar"],
      parameters: [{ name: "address", in: "query", required: true, schema: { type: "string", format: "uri" } }],
      responses: {
        "200": { description: "Its text (RFC 5545)", content: textJson({ text: string }) },
        "403": problem("The address lies in a private network that the environment does not name"),
        "422": problem("No address, nothing that answers, or no calendar"),
      },
    },
  },
  "/api/v1/calendar/sample": {
    get: {
      operationId: "calendar-sample",
      summary: "Address of the simulated calendar that ships with this",
      tags: ["calendar"],
      responses: { "200": { description: "Its address, where it runs", content: textJson({ address: string }, []) } },
    },
  },
  "/api/v1/calendar/feeds": {
    get: {
      operationId: "calendar-feeds",
      summary: "Secret addresses of the crew's calendar that are in use; the secrets themselves are not known any more",
      tags: ["calendar"],
      responses: {
        "200": { description: "Addresses in use", content: textJson({ items: { type: "array", items: feedSchema } }) },
        "503": again,
      },
    },
    post: {
      operationId: "make-calendar-feed",
      summary: "Make an address; it is told this once",
      tags: ["calendar"],
      requestBody: { required: true, content: textJson({ name: { type: "string", minLength: 1, maxLength: 60 } }) },
      responses: {
        "201": {
          description: "Made; `path` is the secret address on this server",
          content: textJson({ ...feed, path: string }, ["id", "name", "madeAt", "path"]),
        },
        "409": problem("As many are in use as may be"),
        "422": problem("A name is needed"),
        "503": again,
      },
    },
  },
  "/api/v1/calendar/feeds/{id}": {
    delete: {
      operationId: "revoke-calendar-feed",
      summary: "Take an address back: nothing can be read there any more",
      tags: ["calendar"],
      parameters: [{ name: "id", in: "path", required: true, schema: { type: "string", format: "uuid" } }],
      responses: {
        "200": { description: "Taken back", content: textJson({ id: feed.id }) },
        "404": problem("There is no such address in use"),
        "503": again,
      },
    },
  },
  "/api/v1/calendar/feed/{key}": {
    get: {
      operationId: "calendar-feed",
      summary: "The crew's calendar, for whoever has its address",
      tags: ["calendar"],
      parameters: [{ name: "key", in: "path", required: true, schema: string }],
      responses: {
        "200": {
          description: "Bookings, days off and what is set for a day (RFC 5545)",
          content: { "text/calendar": { schema: string } },
        },
        "404": problem("There is no calendar at this address"),
        "503": again,
      },
    },
  },
  ...mailboxPath(problem),
});
