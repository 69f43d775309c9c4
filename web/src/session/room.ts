/** The room that sheets dry in, and how their board stands. Kept in this browser. */

import { create } from "zustand";
import { bringInto } from "../engine/client";
import type { Surroundings } from "../generated/core";
import { refusalOf } from "../model/refused";
import { say } from "./notices";

const STORED = "saltmarsh.room";

/** null: not told yet what is usual. */
export const useRoom = create<{ room: Surroundings | null }>(() => ({ room: null }));

/** Whether it is a number for every number that is usual. */
const isRoom = (value: unknown, usual: Surroundings): value is Surroundings =>
  typeof value === "object" && value !== null && Object.keys(usual).every((k) => typeof (value as Record<string, unknown>)[k] === "number");

/** Begins in the room that the painter left, or in the usual one. */
export function beginRoom(usual: Surroundings) {
  let kept: unknown = null;
  try {
    kept = JSON.parse(localStorage.getItem(STORED) ?? "null");
  } catch {
    // What cannot be read is as if it were not there.
  }
  enter(isRoom(kept, usual) ? kept : usual, usual);
}

export function changeRoom(change: Partial<Surroundings>) {
  const { room } = useRoom.getState();
  if (room) enter({ ...room, ...change }, room);
}

/** Goes into a room; where it is refused, into `else_`, which was not. */
function enter(room: Surroundings, else_: Surroundings) {
  bringInto(room).then(
    () => localStorage.setItem(STORED, JSON.stringify(room)),
    (error: unknown) => {
      say(refusalOf(error).message);
      useRoom.setState({ room: else_ });
      void bringInto(else_);
    },
  );
  useRoom.setState({ room });
}
