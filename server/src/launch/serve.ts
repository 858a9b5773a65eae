import { createServer, type Server } from "node:http";
import { createServer as createProbe } from "node:net";
import type Koa from "koa";
import { Trouble } from "./trouble";

const TAKEN = "EADDRINUSE";

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

/** Serves on loopback; resolves when a request would succeed. */
export const serve = (app: Koa, port: number) =>
  new Promise<Serving>((resolve, reject) => {
    const server: Server = createServer(app.callback());
    server.once("error", (error) => reject(listenTrouble(error as { code?: string }, port)));
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
