/** Signing in by name and password, and out. */

import type { components } from "./schema";
import { ask, http } from "./client";

export type Session = components["schemas"]["Session"];

/** Who is signed in; renews what is old. */
export const whoAmI = (): Promise<Session> => ask(() => http.GET("/session"));
export const signInAs = (name: string, password: string): Promise<Session> => ask(() => http.POST("/session", { body: { name, password } }), false);
/** Signs out, here or wherever this painter is signed in. */
export const signOut = (everywhere: boolean): Promise<unknown> => ask(() => (everywhere ? http.DELETE("/sessions") : http.DELETE("/session")), false);
