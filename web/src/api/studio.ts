/** The studio: who paints here, whom its owners invite, and how much each keeps. */

import type { components } from "./schema";
import { ask, http } from "./client";
import type { Session } from "./session";

export type Holds = components["schemas"]["Holds"];
export type Member = components["schemas"]["Member"];
export type Invitation = components["schemas"]["Invitation"];

export const whatIKeep = (): Promise<Holds> => ask(() => http.GET("/kept"));
export const listMembers = (): Promise<Member[]> => ask(() => http.GET("/painters"));
export const listInvitations = (): Promise<Invitation[]> => ask(() => http.GET("/invitations"));
export const invite = () => ask(() => http.POST("/invitations"));
export const withdraw = (id: string) => ask(() => http.DELETE("/invitations/{id}", { params: { path: { id } } }));
export const accept = (code: string, name: string, password: string): Promise<Session> => ask(() => http.POST("/painters", { body: { code, name, password } }), false);
