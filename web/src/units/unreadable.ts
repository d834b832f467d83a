/** What is typed and cannot be read: its message is one sentence for the person who typed it. */
export class Unreadable extends Error {}

/** The result, or the first sentence about what cannot be read; any other error stays one. */
export function orSentence<T>(read: () => T): T | string {
  try {
    return read();
  } catch (error) {
    if (error instanceof Unreadable) return error.message;
    throw error;
  }
}
