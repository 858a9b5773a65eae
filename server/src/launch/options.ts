/** What the person at the terminal asked for. */
export interface Options {
  readonly empty: boolean;
  readonly demoReset: boolean;
  readonly port: number;
  readonly dataFolder: string;
  readonly clientFolder: string | undefined;
}

/** What is to be undone when it stops, last first. */
export type Stops = (() => Promise<void> | void)[];
