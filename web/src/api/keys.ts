/** Under which names answers are kept, and with what: the circuit or job first, so that all of one can be called stale at once;
 * then the revision, so that an answer is never shown for another. */
const key =
  <const Name extends string>(name: Name) =>
  (...of: readonly unknown[]) =>
    [name, ...of] as const;

export const keys = {
  practices: key("practices"),
  jobs: key("jobs"),
  job: key("job"), // job
  together: key("together"), // job, how its circuits stand, what is least, price of an hour
  customer: key("customer"), // job
  bin: key("bin"),
  firm: key("firm"),
  devices: key("devices"),
  circuit: key("circuit"), // circuit
  history: key("history"), // circuit, revision; or circuit, "drawing", revision
  usual: key("usual"), // circuit, revision, cable
  picture: key("picture"), // circuit, revision, what is drawn
  trace: key("trace"), // circuit, revision, how tests are preferred, toward which plan
  preview: key("preview"), // circuit, revision, test
  ahead: key("ahead"), // circuit, revision, how tests are preferred
  followed: key("followed"), // the same
  tree: key("tree"), // the same
  wishes: key("wishes"), // circuit
  plan: key("plan"), // circuit, revision, wishes; or circuit, revision, "option" or "diagram", which
  procedure: key("procedure"), // circuit, revision, forth or back
  fitting: key("fitting"), // circuit
  step: key("step"), // circuit, step, last entry of the log
  proof: key("proof"), // circuit, revision
  diagnosis: key("diagnosis"), // circuit, last entry of the log
  mistake: key("mistake"), // circuit, revision, mistake, box
  links: key("links"), // circuit, revision, option
  rehearsal: key("rehearsal"), // circuit, revision, what is rehearsed
  ramp: key("ramp"), // what is held
  use: key("use"), // circuit
  upkeep: key("upkeep"), // circuit, assumptions, currency
  handover: key("handover"), // circuit, currency
  hub: key("hub"),
};
