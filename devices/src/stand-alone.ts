/** Something that listens on loopback and can be closed. */
export interface Service {
  listen(port?: number): Promise<string>;
  close(): Promise<void>;
}

/**
 * Runs a stand-in as a process: prints its address once it listens, and ends when told to, or when whoever started it is
 * gone (its standard input closes then). A request that goes wrong ends that request alone.
 */
export function standAlone(service: Service): void {
  const end = () => void service.close().then(() => process.exit(0));
  process.on("SIGTERM", end);
  process.on("SIGINT", end);
  process.stdin.on("end", end).on("close", end).resume();
  const port = Number(process.argv[2] ?? 0);
  service.listen(port).then(
    (address) => process.stdout.write(`${address}\n`),
    (error: Error) => {
      process.stderr.write(`A stand-in cannot start: ${error.message}\n`);
      process.exit(1);
    },
  );
}
