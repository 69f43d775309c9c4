/**
 * Changes gestures, and the names of images, one after the other, each on what the last one left: two fields that are filled in quickly undo
 * nothing of each other.
 */

import { changeOf, putGesture, renameImage, type Gesture, type Image } from "../api/client";
import { queue } from "../api/queue";

export type GestureChange = Partial<ReturnType<typeof changeOf>> & { inkml?: string };

const inTurn = queue();

/** Changes what this window `shows`, or what the server told of it after the last change here where that is newer. */
function changing<T extends { id: string; version: number }>() {
  const latest = new Map<string, T>();
  const one = (shown: T, change: (now: T) => Promise<T>): Promise<T> =>
    inTurn(async () => {
      const left = latest.get(shown.id);
      const changed = await change(left && left.version > shown.version ? left : shown);
      latest.set(changed.id, changed);
      return changed;
    });
  return { one, forget: (id: string) => latest.delete(id) };
}

const ofGestures = changing<Gesture>();
const ofImages = changing<Image>();

/** Changes some of a gesture; the rest stays as this window knows it. */
export const changeGesture = (gesture: Gesture, to: GestureChange) =>
  ofGestures.one(gesture, (now) => putGesture(now.id, { ...changeOf(now), ...to, seen: now.version }));

/** A gesture was taken away: one that comes in its place begins anew. */
export const forgetGesture = (id: string) => ofGestures.forget(id);

/** Names and tags an image anew. */
export const nameImage = (image: Image, name: string, tags: string[]) => ofImages.one(image, (now) => renameImage(now, name, tags));
