/** One of a few, all in sight. */

import { RadioGroup } from "radix-ui";

export function Radios({ label, value, options, onChange }: { label: string; value: string; options: [string, string][]; onChange: (value: string) => void }) {
  return (
    <div className="grid gap-0.5">
      <span className="font-semibold">{label}</span>
      <RadioGroup.Root aria-label={label} value={value} onValueChange={onChange} className="flex flex-wrap gap-1">
        {options.map(([v, text]) => (
          <RadioGroup.Item key={v} value={v} className="min-h-7 rounded border border-line bg-raised px-2 data-[state=checked]:border-draft data-[state=checked]:font-semibold data-[state=checked]:text-draft">
            {text}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </div>
  );
}
