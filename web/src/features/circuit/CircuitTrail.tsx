import { Link } from "react-router";
import { Trail } from "../../ui/Shell";

/** Where one is on a page of a circuit: by way of the circuit, once its name is known. */
export function CircuitTrail(props: { to: string; circuit: string | undefined; page: string }) {
  if (props.circuit === undefined) return null;
  return (
    <>
      <span aria-hidden>›</span>
      <Link to={props.to}>{props.circuit}</Link>
      <Trail>{props.page}</Trail>
    </>
  );
}
