import { t } from "../../../model/said";
/** A line of a response: what it is called, what was kept where it differs, and its controls. */

interface LineProps {
  label: string;
  /** What was kept, written out, where it differs from the draft. */
  kept?: string | null | undefined;
  onPutBack?: () => void;
  children: React.ReactNode;
}

export function Line({ label, kept, onPutBack, children }: LineProps) {
  return (
    <div className="flex min-h-8 flex-wrap items-center gap-1.5 border-t border-hair py-0.5">
      <span>{label}</span>
      {kept && (
        <>
          <span className="inline-block h-1.5 w-1.5 shrink-0 rounded-full bg-draft" role="img" aria-label={t("changed")} />
          <button type="button" className="num min-h-6 text-muted line-through" title={t("Put this back")} aria-label={t("Put {{label}} back to {{kept}}", { label, kept })} onClick={onPutBack}>
            {kept}
          </button>
        </>
      )}
      <span className="ml-auto flex items-center gap-1">{children}</span>
    </div>
  );
}
