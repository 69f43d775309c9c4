/** One number of a ground: typed or slid; what it was before beside it where it was changed. */

import { Term } from "../media/Term";
import { NumberField } from "../ui/controls";
import { Slider, type Span } from "../ui/Slider";
import { t } from "../model/said";

interface NumberRowProps {
  label: string;
  unit: string;
  /** Its id among the numbers of grounds. */
  id: string;
  span: Span;
  value: number;
  /** As it is kept. */
  before: number;
  onDrag: (value: number) => void;
  onLetGo: () => void;
  onCommit: (value: number) => void;
}

export function NumberRow(props: NumberRowProps) {
  const { label, span, value, before } = props;
  return (
    <div className="border-t border-hair pt-1">
      <div className="flex items-center gap-2">
        <Term word={`ground:${props.id}`}>{label}</Term>
        <span className="ml-auto flex items-center gap-1">
          {before !== value && (
            <button type="button" className="num text-muted line-through" title={t("Put this back")} aria-label={t("Put {{label}} back to {{before}}", { label, before })} onClick={() => props.onCommit(before)}>
              {before}
            </button>
          )}
          <NumberField label={label} value={value} {...span} onCommit={props.onCommit} />
          <span className="w-20 text-muted">{props.unit}</span>
        </span>
      </div>
      <Slider tall label={t("{{label}}, slider", { label })} span={span} value={value} onDrag={props.onDrag} onLetGo={props.onLetGo} />
    </div>
  );
}
