/**
 * The document as those parts of the screen see it that are not under the hand: while a control is dragged they follow it now and then,
 * so that the control itself, and the strokes, follow at once.
 */

import { create } from "zustand";
import type { ToolDocument } from "../model/tool";
import { documentOf, useBench } from "./store";

/** How often they follow while a control is dragged, ms. */
const EVERY_MS = 150;

export const useFollowing = create<{ document: ToolDocument | null }>(() => ({ document: documentOf(useBench.getState()) }));
let timer: ReturnType<typeof setTimeout> | undefined;

const follow = () => {
  clearTimeout(timer);
  timer = undefined;
  const document = documentOf(useBench.getState());
  if (document !== useFollowing.getState().document) useFollowing.setState({ document });
};

useBench.subscribe((state) => {
  if (state.dragged) timer ??= setTimeout(follow, EVERY_MS);
  else follow();
});

/** `useDocument`, for what is not under the hand. */
export const useFollowed = () => useFollowing((s) => s.document);
