/** The shell around every screen: what all of them read, the way between them, and what is watched throughout. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Suspense, lazy, useEffect, useMemo, useRef } from "react";
import { BrowserRouter, NavLink, Route, Routes, useLocation } from "react-router";
import { keepWaysOf } from "./api/ways";
import type { Tool } from "./api/client";
import { Bench } from "./bench/Bench";
import { Palette } from "./bench/Palette";
import { Problem, DoneNotices } from "./Notices";
import { Guarded, NoSuchPlace } from "./Guarded";
import { Painter } from "./Painter";
import { SignIn } from "./SignIn";
import { makeAhead } from "./session/ahead";
import { watchColumns } from "./session/columns";
import { Context } from "./session/context";
import { EmptyRack } from "./rack/EmptyRack";
import { say } from "./session/notices";
import { watchChanges } from "./session/changes";
import { keepOffline } from "./session/offline";
import { openFirst, watchDraft } from "./session/saving";
import { watchRelevance } from "./session/relevance";
import { watchSteps } from "./session/steps";
import { setTheme, takeOtherEnd } from "./session/choices";
import { useBench } from "./session/store";
import { explainWord, useWords } from "./session/words";
import { useKeyTable, useShownKey } from "./keys/registry";
import { useKeys } from "./keys/useKeys";
import { strokeOfRow } from "./engine/types";
import { takeThird } from "./session/looking";
import { takeUp, untouched } from "./session/handSaving";
import { fixed } from "./model/number";
import { Refused } from "./model/refused";
import { t } from "./model/said";
import { asked, firstOf, isToldNow, readyFirstGround } from "./session/beginning";

// What opens over a screen comes when it is opened first.
const About = lazy(() => import("./bench/About").then((m) => ({ default: m.About })));
const KeyList = lazy(() => import("./keys/KeyList").then((m) => ({ default: m.KeyList })));
const Words = lazy(() => import("./words/Words").then((m) => ({ default: m.Words })));
const RackScreen = lazy(() => import("./rack/RackScreen").then((m) => ({ default: m.RackScreen })));
const HandScreen = lazy(() => import("./hand/HandScreen").then((m) => ({ default: m.HandScreen })));
const GroundsScreen = lazy(() => import("./grounds/GroundsScreen").then((m) => ({ default: m.GroundsScreen })));
const GesturesScreen = lazy(() => import("./gestures/GesturesScreen").then((m) => ({ default: m.GesturesScreen })));

const SCREENS = [
  { to: "/", label: "Bench" },
  { to: "/rack", label: "Rack" },
  { to: "/hand", label: "Hand" },
  { to: "/grounds", label: "Grounds" },
  { to: "/gestures", label: "Gestures" },
];

export function App() {
  const declarations = useQuery(asked.declarations);
  const tools = useQuery(asked.tools);
  const gestures = useQuery(asked.gestures);
  const grounds = useQuery(asked.grounds);
  const styluses = useQuery(asked.styluses);
  const opened = useBench((s) => s.tool !== null);
  const known = useTakenUp(isToldNow(styluses) || styluses.failureCount > 0 ? styluses.data : undefined, isToldNow(styluses));
  const onProof = useMemo(() => (gestures.data ?? []).filter((g) => g.on_proof), [gestures.data]);

  // What was told last stands in for a server that is away; as long as that may still answer, nothing is opened of it.
  const away = [tools, gestures, grounds, styluses].some((q) => q.failureCount > 0);
  const told = isToldNow(tools) || tools.failureCount > 0;
  useEffect(() => {
    const all = told ? tools.data : undefined;
    if (all) {
      takeOtherEnd(all);
      takeThird(all);
    }
    if (!all?.length || useBench.getState().tool) return;
    const tool = firstOf(all);
    if (tool) void openFirst(tool, !isToldNow(tools));
  }, [tools, told]);
  const started = declarations.data !== undefined;
  useEffect(() => (started ? watchRelevance() : undefined), [started]);
  useEffect(() => {
    if (started && tools.data) readyFirstGround(tools.data);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when there are both
  }, [started, tools.data !== undefined]);
  useEffect(() => {
    const selected = useBench.getState().gesture;
    if ((selected === null || strokeOfRow(selected) === null) && !onProof.some((g) => g.id === selected) && onProof[0]) useBench.setState({ gesture: onProof[0].id });
  }, [onProof]);
  useEffect(() => {
    if (gestures.data && isToldNow(gestures)) void keepWaysOf(gestures.data);
  }, [gestures]);
  useEffect(() => (opened && tools.data ? makeAhead(tools.data) : undefined), [opened, tools.data]);
  useEffect(() => watchDraft(), []);
  useEffect(() => watchSteps(() => say(t("This browser keeps nothing: strokes and steps are gone with the page."))), []);
  useEffect(() => watchColumns(), []);
  useEffect(() => keepOffline(), []);
  const queries = useQueryClient();
  useEffect(() => (opened ? watchChanges(queries) : undefined), [opened, queries]);
  useKeys({
    find: () => useBench.setState((s) => ({ palette: !s.palette })),
    keys: () => useKeyTable.setState({ shown: true }),
  });

  const problem = declarations.error ?? tools.error ?? gestures.error ?? grounds.error ?? styluses.error;
  if ([tools, gestures, grounds, styluses].some((q) => q.error instanceof Refused && q.error.code === "sign-in")) return <SignIn />;
  if (declarations.data && tools.data?.length === 0 && told) {
    return (
      <div className="relative h-full">
        <Problem />
        <div className="absolute top-2 right-4">
          <Painter />
        </div>
        <EmptyRack declarations={declarations.data} />
        <DoneNotices />
      </div>
    );
  }
  if (!declarations.data || !tools.data || !gestures.data || !grounds.data || !opened || !known) {
    return (
      <main className="grid h-full place-items-center">
        <p role={problem ? "alert" : "status"} className={problem ? "text-warn" : "text-muted"}>
          {problem ? t("{{message}}. Trying again…", { message: problem.message }) : t("Laying out the bench…")}
        </p>
      </main>
    );
  }
  return (
    <Context.Provider value={{ declarations: declarations.data, tools: tools.data, gestures: onProof, allGestures: gestures.data, grounds: grounds.data }}>
      <BrowserRouter>
        <div className="grid min-h-full grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)] px-2 pb-3 wide:h-full wide:px-4">
          <TopLine away={away} />
          <Over tools={tools.data} />
          <main id="screen" tabIndex={-1} className="relative grid min-h-0 grid-cols-[minmax(0,1fr)] outline-none">
            <Titled />
            <Problem />
            <Suspense>
              <Routes>
                <Route path="/" element={<Guarded><Bench tools={tools.data} /></Guarded>} />
                <Route path="/rack" element={<Guarded><RackScreen tools={tools.data} /></Guarded>} />
                <Route path="/hand" element={<Guarded><HandScreen /></Guarded>} />
                <Route path="/grounds" element={<Guarded><GroundsScreen /></Guarded>} />
                <Route path="/gestures" element={<Guarded><GesturesScreen /></Guarded>} />
                <Route path="*" element={<NoSuchPlace />} />
              </Routes>
            </Suspense>
          </main>
          <DoneNotices />
        </div>
      </BrowserRouter>
    </Context.Provider>
  );
}

/** What lies over a screen while it is open. */
function Over({ tools }: { tools: Tool[] }) {
  const about = useBench((s) => s.about);
  const keys = useKeyTable((k) => k.shown);
  const words = useWords((w) => w.open !== null);
  return (
    <>
      {/* It is there from the start: what is typed right after its key must not be lost. */}
      <Palette tools={tools} />
      <Suspense>
        {about && <About />}
        {keys && <KeyList />}
        {words && <Words />}
      </Suspense>
    </>
  );
}

/** Takes up the stylus that was in use, once; where that was only remembered, once more when it is `told`, unless the painter has changed it since. */
function useTakenUp(styluses: Parameters<typeof takeUp>[0] | undefined, told: boolean): boolean {
  const taken = useBench((s) => s.handTaken);
  const remembered = useRef(false);
  useEffect(() => {
    if (!styluses) return;
    const first = !useBench.getState().handTaken;
    if (!first && !(told && remembered.current)) return;
    remembered.current = !told;
    if (first || untouched()) takeUp(styluses);
    useBench.setState({ handTaken: true });
  }, [styluses, told]);
  return taken;
}

/** The window is called by its screen. */
function Titled() {
  const { pathname } = useLocation();
  const name = SCREENS.find((s) => s.to === pathname)?.label ?? "Nothing lies here";
  useEffect(() => {
    document.title = `${name} · Saltmarsh`;
  }, [name]);
  return null;
}

function TopLine({ away }: { away: boolean }) {
  const theme = useBench((s) => s.theme);
  const live = useBench((s) => s.live);
  const [find, keys] = [useShownKey("find"), useShownKey("keys")];
  const { name, first_gf, full_gf } = useBench((s) => s.hand.profile);
  return (
    <header className="flex min-h-[34px] flex-wrap items-center gap-x-5">
      <a href="#screen" className="sr-only rounded bg-draft px-2 text-on-draft focus:not-sr-only focus:absolute focus:z-50">
        {t("To what is on the screen")}
      </a>
      <strong className="text-[15px]">{t("Saltmarsh")}</strong>
      <nav aria-label={t("Screens")} className="flex items-center gap-1">
        {SCREENS.map((s) => (
          <NavLink key={s.to} to={s.to} end className={({ isActive }) => `flex min-h-7 items-center px-2 ${isActive ? "font-semibold" : "text-muted"}`}>
            {s.label}
          </NavLink>
        ))}
      </nav>
      <span role="status" className="ml-auto text-warn">
        {away && t("The server is away: this is what was here last.")}
      </span>
      <span className="flex items-center gap-2 text-muted">
        <span aria-hidden className={`h-2 w-2 rounded-full ${live?.kind === "pen" ? "bg-draft" : "bg-kept"}`} />
        {live?.kind === "stand-in" ? t("Stand-in for ") : ""}
        {name}, {fixed(first_gf)}{" "}{t("to")}{" "}{fixed(full_gf)}{" "}{t("gf")}
      </span>
      <Painter />
      <button type="button" className="min-h-7 px-1 text-muted" onClick={() => setTheme(theme === "light" ? "dark" : "light")}>
        {theme === "light" ? t("Dark") : t("Light")}
      </button>
      <button type="button" className="min-h-7 px-1 text-muted" onClick={() => useBench.setState({ palette: true })}>
        {t("Find or do")}{" "}<kbd className="num">{find}</kbd>
      </button>
      <button type="button" className="min-h-7 px-1 text-muted" onClick={() => explainWord("list")}>
        {t("Words")}
      </button>
      <button type="button" className="min-h-7 px-1 text-muted" onClick={() => useKeyTable.setState({ shown: true })}>
        {t("Keys")}{" "}<kbd className="num">{keys}</kbd>
      </button>
    </header>
  );
}
