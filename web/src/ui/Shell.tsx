import { Moon, Sun } from "lucide-react";
import { useEffect, useState, type ReactNode } from "react";
import { Link } from "react-router";
import { useAway } from "../api/away";
import { Shortcuts } from "./Shortcuts";
import { Who } from "./Who";
import { chooseTheme, currentTheme } from "./theme";
import { look } from "./look";
import { Tool } from "./Tool";

/** Where one is, in one line: what is long is cut, and on a phone the program's name gives way. */
const trail =
  "flex min-w-0 flex-auto items-baseline gap-x-3.5 max-sm:gap-x-1.5 max-sm:overflow-hidden *:block *:shrink-0 *:leading-[44px] [&>[aria-current]]:shrink [&>[aria-current]]:truncate [&>a:not(:first-child)]:min-w-12 [&>a:not(:first-child)]:shrink-[9] [&>a:not(:first-child)]:truncate [&>span[aria-hidden]]:text-soft max-sm:[&>a:first-child:not(:only-child)]:hidden max-sm:[&>a:first-child+span]:hidden";

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
      <a
        href="#main"
        className="absolute -left-[999px] flex min-h-11 items-center focus:top-2 focus:left-2 focus:z-10 focus:bg-sheet focus:px-4 focus:py-2.5"
      >
        Skip to content
      </a>
      <header
        data-bench={props.bench || undefined}
        className={`flex items-center justify-between print:hidden ${props.bench ? "gap-3 border-b border-ink px-4" : "gap-3 border-b-[3px] border-double border-ink px-6 py-1.5 max-sm:h-12 max-sm:gap-0 max-sm:border-b max-sm:border-solid max-sm:py-0 max-sm:pr-0 max-sm:pl-3.5"}`}
      >
        <nav aria-label="Where you are" className={trail}>
          <Link to="/" className="font-serif text-[1.3rem] font-semibold tracking-[0.01em] no-underline">
            Ambivia
          </Link>
          {props.trail}
        </nav>
        {props.middle}
        <div className="flex shrink-0">
          {props.tools}
          <Who />
          <ThemeSwitch />
          <Shortcuts />
        </div>
      </header>
      {away && (
        <p className="sticky top-0 z-20 border-b-2 border-ink bg-paper px-4 py-3" role="alert">
          <strong>Not current.</strong> The program does not answer. Nothing that was saved is lost, and what you changed last is sent when
          it answers: start it again and this page goes on by itself.
        </p>
      )}
      <main
        id="main"
        tabIndex={-1}
        inert={away}
        className={`${props.bench ? "flex min-h-0 flex-1 flex-col" : "min-h-[calc(100dvh-3.5rem)]"} ${away ? "opacity-55" : ""}`}
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
    <footer className="mt-8 border-t border-rule px-6 pt-4 pb-6 text-sm text-soft max-sm:px-3.5 max-sm:pb-32">
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
    <Tool
      icon={theme === "dark" ? Sun : Moon}
      label={`Change to the ${other} theme`}
      onClick={() => {
        chooseTheme(other);
        setTheme(other);
      }}
    />
  );
}

export function NotHere() {
  return (
    <Shell title="Not found">
      <section className={look.page}>
        <h1>There is nothing here</h1>
        <p>The job or circuit may have been removed.</p>
        <Link className={look.button} to="/">
          To the jobs
        </Link>
      </section>
    </Shell>
  );
}
