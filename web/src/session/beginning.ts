/** What the page begins with: the engine, and what the server tells of the painter's work. All of it is under way before anything is drawn. */

import { queryOptions, type Query, type QueryClient } from "@tanstack/react-query";
import { listGestures, listGrounds, listStyluses, listTools, type Tool } from "../api/client";
import { readGestures, readyGround, start } from "../engine/client";
import { declaredIn } from "../model/said";
import { keepDeclaredUnders, takeView } from "./choices";
import { beginClock } from "./clock";
import { beginRoom } from "./room";

const LOADED = Date.now();
/** The server told it since the page was loaded, and not before. */
export const isToldNow = ({ dataUpdatedAt }: { dataUpdatedAt: number }) => dataUpdatedAt >= LOADED;

/** What is remembered of the last visit is asked for anew; what was told now is so new, ms. */
const FRESH_MS = 5000;
const staleTime = ({ state }: Pick<Query, "state">) => (isToldNow(state) ? FRESH_MS : 0);

/** Starts the engine; what was chosen before is held to what it declares before anything is laid. */
const begin = () =>
  start().then((told) => {
    const declarations = declaredIn(told);
    keepDeclaredUnders(declarations.media);
    takeView(declarations.view);
    beginRoom(declarations.surroundings);
    beginClock();
    return declarations;
  });

export const asked = {
  declarations: queryOptions({ queryKey: ["declarations"], queryFn: begin, staleTime: Infinity }),
  tools: queryOptions({ queryKey: ["tools"], queryFn: listTools, staleTime }),
  gestures: queryOptions({ queryKey: ["gestures"], queryFn: listGestures, staleTime }),
  grounds: queryOptions({ queryKey: ["grounds"], queryFn: listGrounds, staleTime }),
  styluses: queryOptions({ queryKey: ["styluses"], queryFn: listStyluses, staleTime }),
};

/** The tool that is opened first. */
export function firstOf(tools: Tool[]): Tool | undefined {
  const last = localStorage.getItem("saltmarsh.tool");
  return tools.find((t) => t.id === last) ?? tools.find((t) => t.name.startsWith("Vine charcoal, side")) ?? tools[0];
}

/** The ground of the tool that is opened first is made while the page is laid out. */
export function readyFirstGround(tools: Tool[]) {
  const tool = firstOf(tools);
  if (tool) readyGround((tool.draft?.document ?? tool.kept.document).ground);
}

/** Asks for all of it, and has gestures read and the first ground made as soon as the engine can. */
export function beginEarly(queries: QueryClient) {
  const started = queries.fetchQuery(asked.declarations);
  const tools = queries.fetchQuery(asked.tools);
  const gestures = queries.fetchQuery(asked.gestures);
  const rest = [queries.fetchQuery(asked.grounds), queries.fetchQuery(asked.styluses)];
  const ahead = [
    Promise.all([gestures, started]).then(([all]) => readGestures(all.filter((g) => g.on_proof))),
    Promise.all([tools, started]).then(([all]) => readyFirstGround(all)),
  ];
  // What fails is told by whoever shows it.
  [...rest, ...ahead].forEach((done) => void done.catch(() => undefined));
}
