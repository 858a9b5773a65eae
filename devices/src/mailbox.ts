import { createServer, type Server } from "node:http";
import PostalMime from "postal-mime";
import { SMTPServer } from "smtp-server";

/** A mail as it came in. */
export interface Mail {
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  /** ISO 8601. */
  readonly at: string;
}

const MOST_KEPT = 200;
const LARGEST = 100_000;

/** @param raw a message as SMTP brings it (RFC 5322) */
export async function readMail(raw: Buffer, at: string): Promise<Mail> {
  const { to, subject = "", text = "" } = await PostalMime.parse(raw);
  return { to: (to ?? []).map(({ address }) => address).join(", "), subject, text: text.trim(), at };
}

const page = (mails: readonly Mail[]) => {
  const safe = (text: string) => text.replace(/[&<>]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;" })[sign]!);
  return `<!doctype html><meta charset="utf-8"><title>Simulated mailbox</title><h1>What would have been sent</h1>${mails
    .map(
      ({ to, subject, text, at }) =>
        `<h2>${safe(subject)}</h2><p>${safe(at)} to ${safe(to)}</p><pre>${safe(text)}</pre>`,
    )
    .join("")}`;
};

/**
 * A stand-in for a mail server: takes mail in by SMTP, sends none of it on, and shows what would have been sent: `GET /` as a
 * page, `GET /mails` as JSON, `GET /smtp` its port.
 */
export class Mailbox {
  private readonly mails: Mail[] = [];
  private readonly smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ["STARTTLS", "AUTH"],
    size: LARGEST,
    onData: (stream, _session, done) => {
      const pieces: Buffer[] = [];
      stream.on("data", (piece: Buffer) => pieces.push(piece));
      stream.on("end", () => {
        readMail(Buffer.concat(pieces), new Date().toISOString()).then((mail) => {
          this.mails.unshift(mail);
          this.mails.length = Math.min(this.mails.length, MOST_KEPT);
          done();
        }, done);
      });
    },
  });
  private readonly http: Server = createServer((request, response) => {
    const answers: Readonly<Record<string, unknown>> = {
      "/mails": { items: this.mails },
      "/smtp": { port: (this.smtp.server.address() as { port: number } | null)?.port },
    };
    const answer = answers[request.url ?? ""];
    response.writeHead(200, { "Content-Type": answer ? "application/json" : "text/html; charset=utf-8" });
    response.end(answer ? JSON.stringify(answer) : page(this.mails));
  });

  /** Listens on loopback; resolves with the address of its page. */
  async listen(port = 0): Promise<string> {
    await new Promise<void>((ready, failed) => {
      this.smtp.once("error", failed);
      this.smtp.listen(0, "127.0.0.1", () => ready());
    });
    this.smtp.on("error", () => undefined);
    return new Promise((ready, failed) => {
      this.http.once("error", failed);
      this.http.listen(port, "127.0.0.1", () =>
        ready(`http://127.0.0.1:${(this.http.address() as { port: number }).port}`),
      );
    });
  }

  async close(): Promise<void> {
    this.http.closeAllConnections();
    await new Promise<void>((closed) => this.http.close(() => closed()));
    await new Promise<void>((closed) => this.smtp.close(() => closed()));
  }
}
