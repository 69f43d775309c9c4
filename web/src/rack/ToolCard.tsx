/** A tool in the rack: what it makes of a few strokes on its own ground, what it is for, and what can be done with it. */

import { DropdownMenu } from "radix-ui";
import { useNavigate } from "react-router";
import type { Tool } from "../api/client";
import { Sample } from "../media/Sample";
import { switchTo } from "../session/saving";
import { useBench } from "../session/store";
import type { ToolDoings } from "./doings";
import { t } from "../model/said";

export function ToolCard({ tool, doings }: { tool: Tool; doings: ToolDoings }) {
  const go = useNavigate();
  const onBench = useBench((s) => s.tool?.id === tool.id);
  const { name, intent } = tool.kept.document;
  const open = () => switchTo(tool).then(() => go("/"));
  const item = (text: string, does: () => unknown) => (
    <DropdownMenu.Item key={text} className="cursor-default rounded px-2 py-1 outline-none data-[highlighted]:bg-ground" onSelect={() => void does()}>
      {text}
    </DropdownMenu.Item>
  );
  return (
    <li className="relative">
      <button type="button" className={`block w-full overflow-hidden rounded border bg-raised text-left ${onBench ? "border-draft" : "border-line hover:border-muted"}`} onClick={() => void open()}>
        <Sample id={tool.id} document={tool.kept.document} hash={tool.kept.content_hash} />
        <span className="block px-2 pb-1.5 pt-1">
          <span className="flex items-baseline gap-2">
            <span className="truncate font-semibold">{name}</span>
            <span className="num ml-auto shrink-0 pr-7 text-[12px] text-muted">{onBench ? t("on the bench") : tool.draft ? t("draft of v{{number}}", { number: tool.kept.number }) : `v${tool.kept.number}`}</span>
          </span>
          <span className="block truncate text-[12px] text-muted" title={intent}>
            {intent}
          </span>
        </span>
      </button>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger aria-label={t("More with {{name}}", { name })} className="absolute right-1 bottom-6 min-h-6 w-7 rounded text-muted hover:bg-ground">
          ⋯
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" sideOffset={2} className="z-50 rounded border border-line bg-raised p-1 shadow-lg">
            {item("Name, use and versions…", () => open().then(() => useBench.setState({ about: true })))}
            {item("Duplicate", () => doings.duplicate(tool))}
            {item("Save as file", () => doings.saveAsFile(tool))}
            {item("Take away", () => doings.takeAway(tool))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </li>
  );
}
