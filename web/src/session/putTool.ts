/** A tool that the painter put in a place of its own: found there again at the next visit, as it is kept by then. */

import type { Tool } from "../api/client";
import type { ToolDocument } from "../model/tool";

export interface PutTool {
  id: string;
  name: string;
  document: ToolDocument;
}

/** `key`: where this browser keeps which tool it is; `put`: puts it there, or takes it away. */
export function placeForTool(key: string, put: (tool: PutTool | null) => void) {
  const place = (tool: Tool | null) => {
    if (tool) localStorage.setItem(key, tool.id);
    else localStorage.removeItem(key);
    put(tool && { id: tool.id, name: tool.name, document: tool.kept.document });
  };
  const takeUp = (tools: Tool[]) => {
    const id = localStorage.getItem(key);
    if (id) place(tools.find((t) => t.id === id) ?? null);
  };
  return { place, takeUp };
}
