/** The link by which a painter is let in. What is behind `#` stays in the browser: no log of a proxy has it. */

const BEGINS = "#invitation=";

export const linkOf = (code: string) => `${location.origin}/${BEGINS}${code}`;

/** The code of the link that this page was opened by. */
export const invitationHere = (): string | null => (location.hash.startsWith(BEGINS) ? location.hash.slice(BEGINS.length) : null);

/** It is used up, and no address to come back to. */
export const forgetInvitation = () => history.replaceState(null, "", location.pathname);
