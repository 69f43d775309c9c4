/** The typed HTTP client, from the server's OpenAPI document. */

import createClient from "openapi-fetch";
import type { Hand, Profile } from "../model/hand";
import type { Recipe } from "../model/ground";
import type { ToolDocument } from "../model/tool";
import type { components, paths } from "./schema";
import { Refused } from "../model/refused";
import { once } from "./once";
import { within } from "./within";
import { t } from "../model/said";

/** So long the server has to answer, and to take in a picture, ms. */
const PATIENCE_MS = 10_000;
const UPLOAD_PATIENCE_MS = 60_000;

export const http = createClient<paths>({ baseUrl: "/api/v1", fetch: within(PATIENCE_MS) });

type Refusal = components["schemas"]["ApiError"];
type ApiTool = components["schemas"]["Tool"];
type ApiDraft = components["schemas"]["Draft"];

export interface Draft extends Omit<ApiDraft, "document"> {
  document: ToolDocument;
}
export interface Tool extends Omit<ApiTool, "kept" | "draft"> {
  kept: { number: number; document: ToolDocument; content_hash: string; kept_at: string; note: string };
  draft: Draft | null;
}

type Answer<T> = { data?: T | undefined; error?: unknown; response: Response };

function isRefusal(error: unknown): error is Refusal {
  return typeof error === "object" && error !== null && "code" in error && "message" in error;
}

/** Something was answered in this browser before: whoever paints here is signed in, or has to do so by name. */
const ANSWERED = "saltmarsh.answered";

/** Sends; signs in once if that was missing, where this server does so by itself: on a first visit, when it must be, before it is told. */
export async function ask<T>(send: () => Promise<Answer<T>>, again = true): Promise<T> {
  let answer: Answer<T>;
  try {
    // A server that signs nobody in says so anew when it is asked.
    if (again && localStorage.getItem(ANSWERED) === null) await signIn().catch(() => undefined);
    answer = await send();
  } catch {
    throw new Refused("away", "the server cannot be reached");
  }
  if (answer.response.ok) {
    if (localStorage.getItem(ANSWERED) === null) localStorage.setItem(ANSWERED, "yes");
    return answer.data as T;
  }
  if (answer.response.status === 401 && again) {
    await signIn();
    return ask(send, false);
  }
  if (isRefusal(answer.error)) {
    const e = answer.error;
    throw new Refused(e.code, e.message, e.field ?? null, e.present ?? null);
  }
  throw new Refused("away", t("the server answered {{status}}", { status: answer.response.status }));
}

let signingIn: Promise<unknown> | null = null;

/** Signs in once for all who were refused together. */
const signIn = () => (signingIn ??= ask(() => http.POST("/session"), false).finally(() => (signingIn = null)));

// The generated types know documents only as objects; the core checks them on both sides.
const body = (document: ToolDocument) => document as unknown as Record<string, never>;
const toolOf = (tool: ApiTool) => tool as unknown as Tool;

type Head = components["schemas"]["ToolHead"];
/** Tools that are read at once. */
const READ_AT_ONCE = 100;

const isNewest = (tool: Tool | undefined, head: Head) => tool?.name === head.name && tool.kept.number === head.number && tool.kept.content_hash === head.content_hash && (tool.draft?.version ?? null) === (head.draft ?? null);

/** What the server told last since the page was opened: only what is newer is read. */
let told = new Map<string, Tool>();

/** All tools by name. */
export async function listTools(): Promise<Tool[]> {
  const heads: Head[] = [];
  for (let after: string | null = ""; after !== null; ) {
    const query = after === "" ? {} : { after };
    const page: components["schemas"]["ToolPage"] = await ask(() => http.GET("/tools", { params: { query } }));
    heads.push(...page.tools);
    after = page.next ?? null;
  }
  const tools = new Map(told);
  const newer = heads.filter((head) => !isNewest(tools.get(head.id), head)).map((head) => head.id);
  for (let i = 0; i < newer.length; i += READ_AT_ONCE) {
    const ids = newer.slice(i, i + READ_AT_ONCE).join(",");
    for (const tool of await ask(() => http.GET("/tools/whole", { params: { query: { ids } } }))) tools.set(tool.id, toolOf(tool));
  }
  const all = heads.flatMap((head) => tools.get(head.id) ?? []);
  told = new Map(all.map((tool) => [tool.id, tool]));
  return all;
}
export const showTool = async (id: string) => toolOf(await ask(() => http.GET("/tools/{id}", { params: { path: { id } } })));
export const createTool = async (document: ToolDocument) =>
  toolOf(await once(["tool", document], (id) => ask(() => http.POST("/tools", { body: { id, document: body(document) } }))));
export const keepTool = async (id: string, seen: number, document: ToolDocument, note = "") =>
  toolOf(
    await ask(() =>
      http.POST("/tools/{id}/versions", { params: { path: { id } }, body: { seen, document: body(document), note } }),
    ),
  );
export type Kept = Tool["kept"];
export const versionsOf = async (id: string) => (await ask(() => http.GET("/tools/{id}/versions", { params: { path: { id } } }))) as unknown as Kept[];
export const takeToolAway = (id: string) => ask(() => http.DELETE("/tools/{id}", { params: { path: { id } } }));
export const listAway = () => ask(() => http.GET("/tools-away"));
export const bringToolBack = async (id: string) => toolOf(await ask(() => http.POST("/tools-away/{id}/back", { params: { path: { id } } })));
export const saveDraft = (id: string, seen: number, based_on: number, document: ToolDocument) =>
  ask(() =>
    http.PUT("/tools/{id}/draft", { params: { path: { id } }, body: { seen, based_on, document: body(document) } }),
  );
export const dropDraft = (id: string, seen: number) =>
  ask(() => http.DELETE("/tools/{id}/draft", { params: { path: { id }, query: { seen } } }));
export interface Stylus extends Omit<components["schemas"]["Stylus"], "document"> {
  document: Hand & { format: string; version: number };
}
const stylusOf = (stylus: components["schemas"]["Stylus"]) => stylus as unknown as Stylus;
/** `document`: stylus document, JSON. */
const stylusBody = (document: string) => JSON.parse(document) as Record<string, never>;

export const listStyluses = async () => (await ask(() => http.GET("/styluses"))).map(stylusOf);
export const addStylus = async (device: string, document: string) =>
  stylusOf(await ask(() => http.POST("/styluses", { body: { device, document: stylusBody(document) } })));
export const saveStylus = async (id: string, seen: number, document: string) =>
  stylusOf(await ask(() => http.PUT("/styluses/{id}", { params: { path: { id } }, body: { seen, document: stylusBody(document) } })));
export const activateStylus = async (id: string) => stylusOf(await ask(() => http.POST("/styluses/{id}/active", { params: { path: { id } } })));
export const removeStylus = (id: string) => ask(() => http.DELETE("/styluses/{id}", { params: { path: { id } } }));

export interface Gesture extends Omit<components["schemas"]["Gesture"], "stylus"> {
  /** The profile of the pen that recorded it; null for the plain pen. */
  stylus: Profile | null;
}
const gestureOf = (gesture: components["schemas"]["Gesture"]) => gesture as unknown as Gesture;

export const listGestures = async () => (await ask(() => http.GET("/gestures"))).map(gestureOf);
/** `stylus`: the profile of the pen that recorded it; null for the plain pen. `as`: the id it is to have, as one has that was here before. */
export const addGesture = async (name: string, note: string, inkml: string, stylus: Profile | null = null, as?: string) => {
  const send = (id: string) => ask(() => http.POST("/gestures", { body: { id, name, note, inkml, stylus: stylus as unknown as Record<string, never> | null } }));
  return gestureOf(await (as ? send(as) : once(["gesture", name, note, inkml, stylus], send)));
};
/** What of a gesture is sent to change it; its way stays where no `inkml` is sent with it. */
export const changeOf = ({ name, note, tags, on_proof }: Gesture) => ({ name, note, tags, on_proof });
export const putGesture = async (id: string, to: ReturnType<typeof changeOf> & { seen: number; inkml?: string }) =>
  gestureOf(await ask(() => http.PUT("/gestures/{id}", { params: { path: { id } }, body: to })));
export const orderGestures = (ids: string[]) => ask(() => http.POST("/gestures/order", { body: { ids } }));
export const removeGesture = (id: string) => ask(() => http.DELETE("/gestures/{id}", { params: { path: { id } } }));
export type KeptCurve = Omit<components["schemas"]["Curve"], "points"> & { points: [number, number][] };
const curveOf = (curve: components["schemas"]["Curve"]) => curve as unknown as KeptCurve;
export const listCurves = async () => (await ask(() => http.GET("/curves"))).map(curveOf);
export const addCurve = async (name: string, points: [number, number][]) => curveOf(await ask(() => http.POST("/curves", { body: { name, points } })));
export const removeCurve = (id: string) => ask(() => http.DELETE("/curves/{id}", { params: { path: { id } } }));

export interface Ground extends Omit<components["schemas"]["Ground"], "recipe"> {
  recipe: Recipe;
}
const groundOf = (ground: components["schemas"]["Ground"]) => ground as unknown as Ground;
const recipeBody = (recipe: Recipe) => recipe as unknown as Record<string, never>;
export const listGrounds = async () => (await ask(() => http.GET("/grounds"))).map(groundOf);
export const addGround = async (name: string, note: string, recipe: Recipe) =>
  groundOf(await ask(() => http.POST("/grounds", { body: { name, note, recipe: recipeBody(recipe) } })));
export const changeGround = async (id: string, version: number, name: string, note: string, recipe: Recipe) =>
  groundOf(await ask(() => http.PUT("/grounds/{id}", { params: { path: { id } }, body: { name, note, recipe: recipeBody(recipe), version } })));
export const removeGround = (id: string) => ask(() => http.DELETE("/grounds/{id}", { params: { path: { id } } }));

export type Image = components["schemas"]["Image"];
export const listImages = () => ask(() => http.GET("/images"));
/** Takes in a PNG, JPEG or WebP; says what was changed on the way. */
export const addImage = (name: string, file: Blob) =>
  ask(() => http.POST("/images", { fetch: within(UPLOAD_PATIENCE_MS), params: { query: { name } }, body: file as never, bodySerializer: (b: unknown) => b as Blob, headers: { "content-type": "application/octet-stream" } }));
export const renameImage = ({ id, version: seen }: Image, name: string, tags: string[]) =>
  ask(() => http.PUT("/images/{id}", { params: { path: { id } }, body: { seen, name, tags } }));
export const removeImage = (id: string) => ask(() => http.DELETE("/images/{id}", { params: { path: { id } } }));
export const usesOfImage = (hash: string) => ask(() => http.GET("/images/{hash}/uses", { params: { path: { hash } } }));
/** Puts another image in the place of one; `only` of these tools and grounds. Gives where. */
export const replaceImage = (hash: string, by: string, only?: string[]) =>
  ask(() => http.POST("/images/{hash}/replace", { params: { path: { hash } }, body: { with: by, only: only ?? null } }));
/** Where the pixels of an image are. */
export const imageFile = (hash: string) => `/api/v1/images/${hash}/png`;

/** A gesture's way, as InkML. */
export const downloadWay = (id: string): Promise<string> => ask(() => http.GET("/gestures/{id}/inkml", { params: { path: { id } }, parseAs: "text" }));

/** Where a gesture is downloaded as InkML. */
export const gestureFile = (id: string) => `/api/v1/gestures/${id}/inkml`;
