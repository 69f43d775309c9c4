/** Small controls on Radix primitives and native inputs, in our look. */

import { Dialog as RadixDialog, Select as RadixSelect, Switch as RadixSwitch, Tooltip } from "radix-ui";
import { memo, useCallback, useEffect, useId, useRef, useState, type ComponentProps, type ReactNode } from "react";
import { fixed } from "../model/number";
import { t } from "../model/said";

/** `title` is told on pointing and on focus, and to screen readers. */
export function Button({ primary, className = "", title, ...rest }: ComponentProps<"button"> & { primary?: boolean }) {
  const look = primary
    ? "bg-draft text-on-draft border-draft font-semibold"
    : "bg-raised border-line hover:border-muted";
  const button = (
    <button
      type="button"
      aria-description={title}
      className={`min-h-7 rounded border px-3 py-1 disabled:opacity-45 aria-pressed:border-draft aria-pressed:text-draft ${look} ${className}`}
      {...rest}
    />
  );
  if (!title) return button;
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{button}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content sideOffset={4} collisionPadding={8} className="pointer-events-none z-[60] max-w-72 rounded border border-line bg-raised px-2 py-1 text-[12px] shadow-lg">
          {title}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

/** A number that can be typed, stepped with the arrow keys, and is committed on Enter or when left. */
export function NumberField(props: {
  label: string;
  value: number;
  low: number;
  high: number;
  step: number;
  digits?: number;
  width?: string;
  onCommit: (value: number) => void;
}) {
  const { value, low, high, step, onCommit } = props;
  const digits = props.digits ?? Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
  const shown = fixed(value, digits);
  const [text, setText] = useState(shown);
  const [bad, setBad] = useState<string | null>(null);
  const told = useId();
  useEffect(() => {
    setText(shown);
    setBad(null);
  }, [shown]);
  const take = () => {
    const wanted = Number(text.replace(",", "."));
    if (text.trim() === "" || !Number.isFinite(wanted) || wanted < low || wanted > high) {
      const message = `${props.label}: a number from ${low} to ${high}`;
      setBad(message);
      return;
    }
    setBad(null);
    if (wanted !== Number(shown)) onCommit(wanted);
    else setText(shown);
  };
  const field = (
    <input
      className={`num min-h-6 rounded border bg-raised px-1 py-0.5 text-right ${bad ? "border-warn" : "border-transparent hover:border-line"} ${props.width ?? "w-16"}`}
      aria-label={props.label}
      aria-invalid={bad !== null}
      data-taken={text === shown ? "" : undefined}
      aria-describedby={bad ? told : undefined}
      title={t("{{low}} to {{high}}", { low, high })}
      inputMode="decimal"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={take}
      onKeyDown={(e) => {
        if (e.key === "Enter") take();
        if (e.key === "Escape") {
          setText(shown);
          setBad(null);
        }
        if (e.key === "ArrowUp" || e.key === "ArrowDown") {
          e.preventDefault();
          const by = step * (e.shiftKey ? 10 : 1) * (e.key === "ArrowUp" ? 1 : -1);
          onCommit(Math.min(high, Math.max(low, Number((value + by).toFixed(6)))));
        }
      }}
    />
  );
  return (
    <span className="relative inline-block">
      {field}
      {bad && (
        <span id={told} role="alert" className="absolute top-full right-0 z-30 w-max max-w-72 rounded border border-warn bg-raised px-2 py-1 text-left text-[12px] text-warn shadow-lg">
          {bad}
        </span>
      )}
    </span>
  );
}

interface ChoiceProps<T extends string> {
  label: string;
  /** Empty where choosing does something and nothing stays chosen. */
  value: T | "";
  /** What it says while nothing is chosen. */
  asks?: string;
  disabled?: boolean;
  options: Option<T>[];
  onChange: (value: T) => void;
  className?: string;
}

/** Value, what it is called, and the heading under which it stands with those beside it. */
type Option<T extends string> = [T, string, string?];

/** One of several. Drawn anew only when it shows something else: it has many parts, and most changes are elsewhere. */
export function Choice<T extends string>(props: ChoiceProps<T>) {
  const latest = useRef(props.onChange);
  useEffect(() => {
    latest.current = props.onChange;
  });
  // Only what is among the options is chosen.
  const onChange = useCallback((value: string) => latest.current(value as T), []);
  return <ChoiceBody {...props} onChange={onChange} />;
}

const sameOptions = (a: Option<string>[], b: Option<string>[]) =>
  a.length === b.length && a.every(([value, text, under], i) => b[i]?.[0] === value && b[i][1] === text && b[i][2] === under);

/** Options under their headings, in their order. */
function grouped(options: Option<string>[]): [string, Option<string>[]][] {
  const groups: [string, Option<string>[]][] = [];
  for (const option of options) {
    const heading = option[2] ?? "";
    const last = groups.at(-1);
    if (last?.[0] === heading) last[1].push(option);
    else groups.push([heading, [option]]);
  }
  return groups;
}

const ChoiceBody = memo(function ChoiceBody(props: Omit<ChoiceProps<string>, "onChange"> & { onChange: (value: string) => void }) {
  const label = props.options.find((o) => o[0] === props.value)?.[1] ?? props.asks ?? props.value;
  // A long list is drawn once somebody comes near it, with pointer or keys: a page has many, and most are never opened.
  const [met, setMet] = useState(false);
  const meet = () => setMet(true);
  return (
    <RadixSelect.Root value={props.value} disabled={props.disabled} onValueChange={props.onChange}>
      <RadixSelect.Trigger
        aria-label={props.label}
        onFocus={meet}
        onPointerEnter={meet}
        onPointerDown={meet}
        className={`inline-flex min-h-7 items-center gap-2 rounded border border-line bg-raised px-2 text-left disabled:opacity-45 ${props.className ?? ""}`}
      >
        <span className="truncate">
          <RadixSelect.Value placeholder={props.asks}>{label}</RadixSelect.Value>
        </span>
        <span aria-hidden className="ml-auto text-muted">
          ⌄
        </span>
      </RadixSelect.Trigger>
      <RadixSelect.Portal>
        <RadixSelect.Content position="popper" sideOffset={3} className="z-50 max-h-80 overflow-auto rounded border border-line bg-raised p-1 shadow-lg">
          <RadixSelect.Viewport>
            {met && grouped(props.options).map(([heading, options]) => (
              <RadixSelect.Group key={heading}>
                {heading && <RadixSelect.Label className="px-2 pt-1.5 text-[12px] text-muted">{heading}</RadixSelect.Label>}
                {options.map(([value, text]) => (
                  <RadixSelect.Item
                    key={value}
                    value={value}
                    className="cursor-default rounded px-2 py-1 outline-none data-[highlighted]:bg-ground data-[state=checked]:font-semibold"
                  >
                    <RadixSelect.ItemText>{text}</RadixSelect.ItemText>
                  </RadixSelect.Item>
                ))}
              </RadixSelect.Group>
            ))}
          </RadixSelect.Viewport>
        </RadixSelect.Content>
      </RadixSelect.Portal>
    </RadixSelect.Root>
  );
}, (a, b) => a.label === b.label && a.value === b.value && a.disabled === b.disabled && a.className === b.className && sameOptions(a.options, b.options));

export function Toggle(props: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <RadixSwitch.Root
      aria-label={props.label}
      checked={props.on}
      onCheckedChange={props.onChange}
      className="relative h-6 w-10 shrink-0 rounded-full border border-muted bg-raised data-[state=checked]:bg-draft"
    >
      <RadixSwitch.Thumb className="block h-4 w-4 translate-x-0.5 rounded-full bg-muted transition-transform data-[state=checked]:translate-x-[18px] data-[state=checked]:bg-on-draft" />
    </RadixSwitch.Root>
  );
}

/** Something that needs the painter's eye. Over what is below it, so that nothing moves and no stroke is laid anew. */
export function Notice({ children }: { children: ReactNode }) {
  return (
    <div role="alert" className="absolute inset-x-0 top-1 z-20 flex items-center gap-3 rounded border border-warn bg-raised px-3 py-1 shadow-lg">
      {children}
    </div>
  );
}

export function Dialog(props: { open: boolean; title: string; wide?: boolean; onClose: () => void; children: ReactNode }) {
  const id = useId();
  return (
    <RadixDialog.Root open={props.open} onOpenChange={(open) => !open && props.onClose()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <RadixDialog.Content
          aria-describedby={id}
          className={`fixed top-1/2 left-1/2 z-50 max-h-[calc(100dvh-1rem)] max-w-[calc(100vw-1rem)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded border border-line bg-pane p-4 shadow-xl ${props.wide ? "w-[54rem]" : "w-[26rem]"}`}
        >
          <RadixDialog.Title className="mb-2 text-base font-semibold">{props.title}</RadixDialog.Title>
          <div id={id}>{props.children}</div>
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}
