/** What stands in the way of an answer, and that whoever asked can change. */
export type ProblemCode =
  | "folder-missing"
  | "not-a-folder"
  | "folder-unreadable"
  | "settings-missing"
  | "settings-unreadable"
  | "sheets-missing"
  | "packages-missing"
  | "no-app"
  | "app-unknown"
  | "sdk-unknown"
  | "file-unreadable";

/** An answer that cannot be given, and why: `code` for programs, `message` for people. */
export class ProjectProblem extends Error {
  override readonly name = "ProjectProblem";

  constructor(
    readonly code: ProblemCode,
    message: string,
  ) {
    super(message);
  }
}

/** Whether something that was thrown is a `ProjectProblem`, also one of another copy of this module. */
export function isProjectProblem(error: unknown): error is ProjectProblem {
  return error instanceof Error && error.name === "ProjectProblem";
}
