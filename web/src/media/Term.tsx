/** A word that explains itself: opened by pen, pointer or key. */

import { explainWord, type WordId } from "../session/words";
import { t } from "../model/said";

export function Term({ word, children, className = "" }: { word: WordId; children: string; className?: string }) {
  return (
    <button
      type="button"
      aria-haspopup="dialog"
      aria-label={t("{{children}}: what it is", { children })}
      className={`min-h-6 min-w-6 cursor-help text-left underline decoration-faint decoration-dotted underline-offset-3 hover:decoration-ink ${className}`}
      onClick={(e) => explainWord(word, e.currentTarget.getBoundingClientRect())}
    >
      {children}
    </button>
  );
}
