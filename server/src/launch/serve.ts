import { createServer, type RequestListener, type Server } from "node:http";
import { createServer as createProbe, type Socket } from "node:net";
import type Koa from "koa";
import { Trouble } from "./trouble";

const TAKEN = "EADDRINUSE";

/** Milliseconds in which a request's head, and the whole request, must have arrived. */
const HEAD_WITHIN = 10_000;
const WHOLE_WITHIN = 20_000;
const LOOK_EVERY = 1_000;

function listenTrouble(error: { code?: string }, port: number): unknown {
  if (error.code === TAKEN)
    return new Trouble(
      `Port ${port} is taken by another program; stop it, or choose another with PORT=4181 bin/start.`,
    );
  if (error.code === "EACCES")
    return new Trouble(`Port ${port} may not be used by this user; choose one above 1023 with PORT.`);
  return error;
}

/** Fails early, before the database is touched, when the port is not to be had. */
export const checkPort = (port: number) =>
  new Promise<void>((resolve, reject) => {
    const probe = createProbe().once("error", (error) => reject(listenTrouble(error as { code?: string }, port)));
    probe.listen(port, "127.0.0.1", () => probe.close(() => resolve()));
  });

export interface Serving {
  readonly port: number;
  /** Lets requests under way finish, then closes. */
  stop(): Promise<void>;
}

const UNREADABLE: Readonly<Record<string, { status: string; title: string }>> = {
  ERR_HTTP_REQUEST_TIMEOUT: { status: "408 Request Timeout", title: "The request took too long to arrive" },
  HPE_HEADER_OVERFLOW: { status: "431 Request Header Fields Too Large", title: "The request's head is too long" },
};
const NO_HTTP = { status: "400 Bad Request", title: "The request could not be read" };

/** What never became a request gets its problem all the same, and its connection ends. */
function answerUnreadable(error: { readonly code?: string }, socket: Socket): void {
  if (!socket.writable || socket.bytesWritten > 0) {
    socket.destroy();
    return;
  }
  const { status, title } = UNREADABLE[error.code ?? ""] ?? NO_HTTP;
  const body = JSON.stringify({ type: "about:blank", title, status: Number(status.slice(0, 3)) });
  socket.end(
    `HTTP/1.1 ${status}\r\nConnection: close\r\nContent-Type: application/problem+json\r\nContent-Length: ${Buffer.byteLength(body)}\r\n\r\n${body}`,
    () => socket.destroy(),
  );
}

/** Requests of one connection that may wait for their answers: a browser sends one at a time, a proxy too. */
const MOST_UNANSWERED = 8;

const FLOODED = JSON.stringify({
  type: "about:blank",
  title: "Too much is asked at once on one connection",
  status: 503,
});

/**
 * Hands requests on as long as their connection waits for few others. What comes on top is answered once, after what is
 * under way, and ends the connection; the rest of it is not looked at.
 */
function withoutFloods(handle: RequestListener): RequestListener {
  const unanswered = new WeakMap<Socket, number>();
  return (request, response) => {
    const { socket } = request;
    const count = (unanswered.get(socket) ?? 0) + 1;
    unanswered.set(socket, count);
    if (count > MOST_UNANSWERED + 1) return;
    if (count > MOST_UNANSWERED) {
      response.writeHead(503, { Connection: "close", "Content-Type": "application/problem+json", "Retry-After": "2" });
      response.end(FLOODED);
      return;
    }
    response.once("close", () => unanswered.set(socket, unanswered.get(socket)! - 1));
    handle(request, response);
  };
}

/** Serves on loopback; resolves when a request would succeed. */
export const serve = (app: Koa, port: number) =>
  new Promise<Serving>((resolve, reject) => {
    const bounds = {
      headersTimeout: HEAD_WITHIN,
      requestTimeout: WHOLE_WITHIN,
      connectionsCheckingInterval: LOOK_EVERY,
    };
    const server: Server = createServer(bounds, withoutFloods(app.callback()));
    server.once("error", (error) => reject(listenTrouble(error as { code?: string }, port)));
    server.on("clientError", answerUnreadable);
    let stopping = false;
    server.prependListener("request", (_request, response) => {
      if (stopping) response.setHeader("Connection", "close");
    });
    const stop = () =>
      new Promise<void>((stopped) => {
        stopping = true;
        const sweep = setInterval(() => server.closeIdleConnections(), 50);
        const giveUp = setTimeout(() => server.closeAllConnections(), 5_000);
        server.close(() => {
          clearInterval(sweep);
          clearTimeout(giveUp);
          stopped();
        });
        server.closeIdleConnections();
      });
    server.listen(port, "127.0.0.1", () => resolve({ port: (server.address() as { port: number }).port, stop }));
  });
