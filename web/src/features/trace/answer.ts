import type { Schemas } from "../../api/client";

/** What tracing tells of a circuit. */
export type Answer = Schemas["TraceAnswer"];
