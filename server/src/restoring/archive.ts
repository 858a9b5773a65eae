import { spawn, spawnSync } from "node:child_process";
import { join } from "node:path";
import { Trouble } from "../launch/trouble";

/*
 * A backup as a file that somebody may have changed: it is listed and its rows are read, and nothing that stands in it is
 * ever run.
 */

export const UNCHANGED = "Nothing was changed.";

/** What our own backups consist of; the words of the archive's own list. */
const KNOWN_ENTRIES = [
  ...["TABLE DATA", "TABLE", "SEQUENCE OWNED BY", "SEQUENCE SET", "SEQUENCE", "DEFAULT", "FK CONSTRAINT", "CONSTRAINT"],
  ...["INDEX", "ROW SECURITY", "POLICY", "ACL", "DATABASE", "ENCODING", "STDSTRINGS", "SEARCHPATH"],
];

interface Entry {
  readonly what: string;
  readonly name: string;
}

function entryOf(line: string): Entry {
  const rest = line.replace(/^\d+; \d+ \d+ /, "");
  const what = KNOWN_ENTRIES.find((each) => rest.startsWith(`${each} `));
  if (!what) return { what: "", name: rest };
  return { what, name: rest.slice(what.length + 1).split(" ")[1] ?? "" };
}

export class Archive {
  constructor(
    private readonly programFolder: string,
    readonly file: string,
  ) {}

  /**
   * Tables that it holds.
   * @throws Trouble where it can't be read, is none of ours, or holds what a backup of ours does not
   */
  tables(): readonly string[] {
    const { status, stdout, stderr } = spawnSync(this.program, ["--list", this.file], {
      encoding: "utf8",
      maxBuffer: 2 ** 26,
    });
    if (status !== 0)
      throw new Trouble(`${this.file} is no backup that can be read (${stderr.trim().split("\n")[0]}). ${UNCHANGED}`);
    const entries = stdout
      .split("\n")
      .filter((line) => /^\d+; /.test(line))
      .map(entryOf);
    const tables = entries.filter(({ what }) => what === "TABLE DATA").map(({ name }) => name);
    if (!["migrations", "crew", "record_version"].every((table) => tables.includes(table)))
      throw new Trouble(`${this.file} is not a backup of Winter Bead. ${UNCHANGED}`);
    const strange = entries.find(({ what }) => what === "");
    if (strange) throw this.holds(strange.name);
    return [...new Set(entries.flatMap(({ what, name }) => (what === "TABLE" || what === "TABLE DATA" ? [name] : [])))];
  }

  /** The trouble with something that stands in it. */
  holds(strange: string): Trouble {
    return new Trouble(
      `${this.file} holds something that no backup of Winter Bead holds (${strange}): it was changed, or is of something else. ${UNCHANGED}`,
    );
  }

  /** Rows of a table as they stand in the file, in the text form of COPY: first the columns, then each row. */
  async *rows(table: string): AsyncGenerator<Buffer | readonly string[]> {
    const child = spawn(this.program, ["--data-only", "--schema=public", `--table=${table}`, "--file=-", this.file], {
      stdio: ["ignore", "pipe", "ignore"],
    });
    try {
      let columns: readonly string[] | undefined;
      for await (const line of linesOf(child.stdout)) {
        if (columns) {
          if (line.length === 2 && line.toString() === "\\.") return;
          yield line;
          continue;
        }
        columns = columnsIn(line, table);
        if (columns) yield columns;
      }
    } finally {
      child.kill();
    }
  }

  private get program(): string {
    return join(this.programFolder, "pg_restore");
  }
}

const COPY = /^COPY public\.([a-z_]+) \(((?:"?[a-z_0-9]+"?(?:, )?)+)\) FROM stdin;$/;

/** The columns that a line of a dump announces for a table; undefined for every other line. */
function columnsIn(line: Buffer, table: string): readonly string[] | undefined {
  const found = COPY.exec(line.toString("latin1"));
  return found?.[1] === table ? found[2]!.split(", ").map((name) => name.replaceAll('"', "")) : undefined;
}

const NEWLINE = 0x0a;

/** Lines of a stream, by the one byte that ends them: rows may hold every other sign. */
async function* linesOf(stream: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let rest: Buffer[] = [];
  for await (const piece of stream) {
    let from = 0;
    for (let end = piece.indexOf(NEWLINE); end >= 0; end = piece.indexOf(NEWLINE, from)) {
      yield Buffer.concat([...rest, piece.subarray(from, end)]);
      rest = [];
      from = end + 1;
    }
    if (from < piece.length) rest.push(piece.subarray(from));
  }
  if (rest.length > 0) yield Buffer.concat(rest);
}
