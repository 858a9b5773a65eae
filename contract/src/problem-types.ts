/** What a problem is of, where a program must know: the write waits, since it is not at fault. */
export const PROBLEMS = {
  /** The session is over: sign in and send it again. */
  signedOut: "urn:winter-bead:signed-out",
  /** It was written by a later program than this one. */
  newerShape: "urn:winter-bead:newer-shape",
  /** Something in use points at what was to be taken back. */
  inUse: "urn:winter-bead:in-use",
} as const;
