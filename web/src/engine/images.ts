/** Images that documents name: fetched once, when a document that needs one is about to be used. */

import type { Studio } from "./wasm/saltmarsh_browser";

const NAMED = /"(?:image|tip\.image|tip\.grain)":"([0-9a-f]{64})"/g;
const coming = new Map<string, Promise<void>>();

/** Resolves when every image that the documents (JSON) name was given to the studio, or could not be had: the core then says so. */
export async function imagesFor(studio: Studio, ...documents: string[]): Promise<void> {
  const wanted = documents.flatMap((d) => Array.from(d.matchAll(NAMED), (m) => m[1] ?? ""));
  const missing = [...new Set(wanted)].filter((hash) => !studio.hasImage(hash));
  if (missing.length === 0) return;
  await Promise.all(missing.map((hash) => coming.get(hash) ?? bring(studio, hash)));
}

function bring(studio: Studio, hash: string): Promise<void> {
  const brought = fetch(`/api/v1/images/${hash}/png`)
    .then(async (answer) => {
      if (answer.ok) studio.giveImage(new Uint8Array(await answer.arrayBuffer()));
    })
    // Away: asked again the next time.
    .catch(() => undefined)
    .finally(() => coming.delete(hash));
  coming.set(hash, brought);
  return brought;
}
