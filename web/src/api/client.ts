import createClient from "openapi-fetch";
import { whoWorks } from "./whoWorks";
import { answered, unanswered } from "./away";
import type { components, paths } from "./schema.gen";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];
export type Edit = Schemas["Edit"];
export type Version = Schemas["Version"];
export type Option = Schemas["PlanOption"];
export type Pick = Schemas["Pick"];
export type Finding = Schemas["Finding"];
export type { CircuitFile } from "./circuit.gen";

export type Circuit = Schemas["Circuit"];

export const client = createClient<paths>({ baseUrl: "/api/v1" });
client.use({
  onRequest({ request }) {
    const who = whoWorks();
    if (who) request.headers.set("Ambivia-By", encodeURIComponent(who));
  },
});

/** An answer that says what is wrong, or that no answer came. */
export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

/** An answer as it comes: what was asked for, or what is wrong. */
type Answer<T> = { data: T; error?: never; response: Response } | { data?: never; error: Problem; response: Response };

/** Returns the data of an answer, or throws its problem. */
export async function take<T>(answer: Promise<Answer<T>>): Promise<T> {
  let got;
  try {
    got = await answer;
    answered();
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error; // nobody wants the answer any more
    unanswered();
    throw new ProblemError({
      type: "about:blank",
      title: "No answer",
      status: 0,
      code: "no-answer",
      detail: "The program does not answer. Nothing that was saved is lost; start it again and this page goes on by itself.",
    });
  }
  if (got.error !== undefined) throw new ProblemError(got.error);
  return got.data;
}

/** Whether no answer came, so that the same may be asked again. */
export const noAnswer = (error: unknown) => error instanceof ProblemError && error.problem.status === 0;

/** Sends a file as it is; the contract calls its body binary. */
export const asFile = (file: Blob) => ({
  headers: { "Content-Type": "application/octet-stream" },
  body: file,
  bodySerializer: () => file,
});
