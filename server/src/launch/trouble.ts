/** Why Winter Bead cannot start, in one sentence for the person at the terminal. */
export class Trouble extends Error {}

interface SystemError {
  readonly code?: string;
}

const SENTENCES: Readonly<Record<string, string>> = {
  EACCES: "may not be written to by this user",
  EPERM: "may not be written to by this user",
  EROFS: "is on a disk that can only be read",
  ENOSPC: "is on a disk that is full",
  EDQUOT: "is on a disk whose quota is used up",
  ENOTDIR: "lies below something that is no folder",
  EEXIST: "is a file, not a folder",
};

/** The sentence for an error of the data folder, or the error itself when it is of another kind. */
export function folderTrouble(folder: string, error: unknown): unknown {
  const sentence = SENTENCES[(error as SystemError).code ?? ""];
  return sentence === undefined
    ? error
    : new Trouble(`The data folder ${folder} ${sentence}; choose another with WINTER_BEAD_DATA.`);
}
