/** What a painter meets where a screen fails, or where there is none. */

import type { ReactNode } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { Link, useLocation } from "react-router";
import { Button } from "./ui/controls";
import { t } from "./model/said";

/** A screen that fails takes nothing with it: the way to the others stays, and what was drafted is kept in this browser. */
export function Guarded({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary
      resetKeys={[pathname]}
      fallbackRender={({ error, resetErrorBoundary }) => (
        <div role="alert" className="grid h-full place-content-center gap-3 rounded border border-line bg-pane p-6">
          <h1 className="text-[17px] font-semibold">{t("This screen has failed")}</h1>
          <p className="max-w-prose">{t("Your draft and the strokes on the free row are kept in this browser. The other screens go on.")}</p>
          <p className="num max-w-prose text-[12px] text-muted">{error instanceof Error ? error.message : String(error)}</p>
          <p className="flex gap-2">
            <Button primary onClick={() => location.reload()}>
              {t("Load the page anew")}
            </Button>
            <Button onClick={resetErrorBoundary}>{t("Try this screen again")}</Button>
          </p>
        </div>
      )}
    >
      {children}
    </ErrorBoundary>
  );
}

export function NoSuchPlace() {
  const { pathname } = useLocation();
  return (
    <div className="grid h-full place-content-center gap-3 rounded border border-line bg-pane p-6">
      <h1 className="text-[17px] font-semibold">{t("Nothing lies here")}</h1>
      <p>
        {t("There is no")}{" "}<span className="num">{pathname}</span>{" "}{t("in Saltmarsh.")}{" "}<Link to="/" className="text-draft underline">{t("To the Bench")}</Link>{t(", or")}{" "}<Link to="/rack" className="text-draft underline">{t("to the rack of tools")}</Link>.
      </p>
    </div>
  );
}
