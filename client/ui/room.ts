/** Room kept for an answer on its way, so that what stands below does not jump when it comes: a screen's height. */
export const roomFor = (here: boolean) => (here ? undefined : ("92vh" as const));
