import type { Problem } from "./types";

/** An error of the API, with the fields it names. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail || problem.title);
  }
  get status() {
    return this.problem.status;
  }
  /** What is wrong with one field, if anything. */
  field(path: string): string | undefined {
    const found = this.problem.fields?.find((f) => f.path === path || f.path.startsWith(`${path}.`));
    if (!found) return undefined;
    return found.accepted ? `${found.problem}. Type: ${found.accepted}` : found.problem;
  }
}

/** The server could not be reached at all; nothing is known of what it did. */
export class Unreachable extends Error {
  constructor() {
    super("No connection to the server. What you typed is kept here and sent later.");
  }
}
