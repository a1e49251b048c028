/** Exit statuses of the command line. */
export const EXIT = Object.freeze({
  done: 0,
  /** Some photo failed, the others are done. */
  someFailed: 1,
  /** The call or a file given with it is wrong; nothing was done. */
  wrongCall: 2,
});

/** The call cannot be carried out as it stands; the message says why. */
export class CallError extends Error {}
