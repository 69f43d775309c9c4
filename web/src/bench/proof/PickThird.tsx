/** Chooses the tool of the third column by what it does. */

import { useBenchContext } from "../../session/context";
import { pinThird, useLooking } from "../../session/looking";
import { Sample } from "../../media/Sample";
import { Button, Dialog } from "../../ui/controls";
import { t } from "../../model/said";

export function PickThird() {
  const open = useLooking((s) => s.open === "third");
  const third = useLooking((s) => s.third);
  const { tools } = useBenchContext();
  const choose = (id: string | null) => {
    pinThird(tools.find((t) => t.id === id) ?? null);
    useLooking.setState({ open: null });
  };
  return (
    <Dialog open={open} wide title={t("Pin a tool beside the draft")} onClose={() => useLooking.setState({ open: null })}>
      {open && (
        <>
          <ul className="m-0 grid max-h-[60vh] list-none grid-cols-1 gap-2 overflow-y-auto p-0 sm:grid-cols-3">
            {tools.map((t) => (
              <li key={t.id}>
                <button type="button" aria-pressed={third?.id === t.id} className="block w-full overflow-hidden rounded border border-line bg-raised text-left aria-pressed:border-draft" onClick={() => choose(t.id)}>
                  <Sample id={`pin:${t.id}`} document={t.kept.document} hash={t.kept.content_hash} />
                  <span className="block truncate px-2 py-1 font-semibold">{t.name}</span>
                </button>
              </li>
            ))}
          </ul>
          <div className="mt-3 flex justify-end gap-2">
            <Button disabled={!third} onClick={() => choose(null)}>
              {t("No third column")}
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}
