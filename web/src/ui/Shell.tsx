import { Moon, Sun } from "lucide-react";
import { useEffect, useState, type ReactNode } from "react";
import { Link } from "react-router";
import { useAway } from "../api/away";
import { Hint } from "./Hint";
import { Shortcuts } from "./Shortcuts";
import { Who } from "./Who";
import { chooseTheme, currentTheme } from "./theme";

/** The frame of every screen: the way back on the left, tools on the right. A bench is one screen that does not
 * scroll as a whole. */
export function Shell(props: {
  title: string;
  trail?: ReactNode;
  middle?: ReactNode;
  tools?: ReactNode;
  bench?: boolean;
  children: ReactNode;
}) {
  useEffect(() => {
    document.title = `${props.title} · Ambivia`;
  }, [props.title]);
  const away = useAway();
  return (
    <div className={props.bench ? "flex h-dvh flex-col overflow-hidden" : undefined}>
      <a href="#main" className="skip">
        Skip to content
      </a>
      <header className={props.bench ? "masthead bench-head" : "masthead"}>
        <nav aria-label="Where you are" className="trail">
          <Link to="/" className="wordmark">
            Ambivia
          </Link>
          {props.trail}
        </nav>
        {props.middle}
        <div className="tools">
          {props.tools}
          <Who />
          <ThemeSwitch />
          <Shortcuts />
        </div>
      </header>
      {away && (
        <p className="away" role="alert">
          <strong>Not current.</strong> The program does not answer. Nothing that was saved is lost, and what you changed last is sent when
          it answers: start it again and this page goes on by itself.
        </p>
      )}
      <main
        id="main"
        tabIndex={-1}
        inert={away}
        className={`${props.bench ? "flex min-h-0 flex-1 flex-col" : "min-h-[calc(100dvh-3.5rem)]"} ${away ? "stale" : ""}`}
      >
        {props.children}
      </main>
      {!props.bench && <Cautions />}
    </div>
  );
}

/** What holds for all that is shown. */
export function Cautions() {
  return (
    <footer className="colophon">
      Mains kills: isolate, lock off, prove dead. A plan is of the circuit as recorded. Local code, the device’s own instructions and
      whoever may do this work by law decide.
    </footer>
  );
}

/** The last step of the trail: where one is. */
export function Trail(props: { children: ReactNode }) {
  return (
    <>
      <span aria-hidden>›</span>
      <span aria-current="page">{props.children}</span>
    </>
  );
}

function ThemeSwitch() {
  const [theme, setTheme] = useState(currentTheme());
  const other = theme === "dark" ? "light" : "dark";
  return (
    <Hint text={`${other === "dark" ? "Dark" : "Light"} theme`}>
      <button
        type="button"
        className="tool"
        aria-label={`Change to the ${other} theme`}
        onClick={() => {
          chooseTheme(other);
          setTheme(other);
        }}
      >
        {theme === "dark" ? <Sun aria-hidden size={18} /> : <Moon aria-hidden size={18} />}
      </button>
    </Hint>
  );
}

export function NotHere() {
  return (
    <Shell title="Not found">
      <section className="page">
        <h1>There is nothing here</h1>
        <p>The job or circuit may have been removed.</p>
        <Link className="button" to="/">
          To the jobs
        </Link>
      </section>
    </Shell>
  );
}
