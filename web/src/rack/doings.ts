/** What is done with whole tools: made, copied, saved as files and read from them, taken away and brought back. */

import { useQueryClient } from "@tanstack/react-query";
import { bringToolBack, createTool, takeToolAway, type Tool } from "../api/client";
import { engine } from "../engine/client";
import { saidOf } from "../model/refused";
import type { ToolDocument } from "../model/tool";
import { hush, say, tellDone } from "../session/notices";
import { switchTo } from "../session/saving";
import { useBench } from "../session/store";
import { LONGEST, freeName } from "./freeName";
import { saveFile } from "../ui/saveFile";
import { t } from "../model/said";

/** The server's limit for a document. */
const MOST_BYTES = 1024 * 1024;

export type ToolDoings = ReturnType<typeof useToolDoings>;

export function useToolDoings(tools: Tool[]) {
  const queries = useQueryClient();
  const refresh = () => Promise.all([queries.invalidateQueries({ queryKey: ["tools"] }), queries.invalidateQueries({ queryKey: ["away"] })]);
  const attempt = async (name: string, work: () => Promise<unknown>) => {
    hush();
    try {
      await work();
      await refresh();
    } catch (error) {
      say(`${name}: ${saidOf(error)}`);
    }
  };
  const bringBack = (id: string, name: string) => attempt(name, () => bringToolBack(id));
  return {
    bringBack,
    duplicate: (tool: Tool) =>
      attempt(tool.name, async () => {
        const copy = await createTool({ ...tool.kept.document, name: freeName(`${tool.name.slice(0, LONGEST)}, copy`, tools) });
        tellDone(t("{{name}} is in the rack.", { name: copy.name }), () => attempt(copy.name, () => takeToolAway(copy.id)));
      }),
    saveAsFile: (tool: Tool) => saveFile(`${tool.name.replace(/[^A-Za-z0-9-]+/g, "-")}.json`, "application/json", `${JSON.stringify(tool.kept.document, null, 2)}\n`),
    takeAway: (tool: Tool) =>
      attempt(tool.name, async () => {
        const next = tools.find((t) => t.id !== tool.id);
        // The bench is never without a tool while the rack has one.
        if (useBench.getState().tool?.id === tool.id) {
          if (next) await switchTo(next);
          else useBench.setState({ tool: null, now: null });
        }
        await takeToolAway(tool.id);
        tellDone(t("{{name}} was taken away, with its versions and its draft.", { name: tool.name }), () => bringBack(tool.id, tool.name));
      }),
    readFiles: async (files: File[]) => {
      const names = [...tools];
      for (const file of files) {
        if (file.size > MOST_BYTES) return say(t("{{name}}: may be at most 1 MiB", { name: file.name }));
        await attempt(file.name, async () => {
          // The core checks it first: its refusals name the field.
          const document = JSON.parse(await engine.checkTool(await file.text())) as ToolDocument;
          const added = await createTool({ ...document, name: freeName(document.name, names) });
          names.push(added);
          tellDone(t("{{name}} is in the rack.", { name: added.name }), () => attempt(added.name, () => takeToolAway(added.id)));
        });
      }
    },
    make: async (document: ToolDocument) => {
      const made = await createTool(document);
      await refresh();
      return made;
    },
  };
}
