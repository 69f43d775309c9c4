/** The list of keys: what each does and where, and another in its place. */

import { useEffect, useState } from "react";
import { Button, Dialog, Toggle } from "../ui/controls";
import { KEYED, KEY_IDS, isBare, keyOf, letBare, putAllBack, putKey, shownKey, takenBy, useKeyTable, written, type KeyId, type Where } from "./registry";
import { t } from "../model/said";

const PLACES: Where[] = ["everywhere", "Bench", "Hand", "Gestures", "Grounds"];

export function KeyList() {
  const shown = useKeyTable((t) => t.shown);
  const close = () => useKeyTable.setState({ shown: false });
  return (
    <Dialog open={shown} title={t("Keys")} wide onClose={close}>
      <Table />
    </Dialog>
  );
}

function Table() {
  const table = useKeyTable();
  const [asking, setAsking] = useState<KeyId | null>(null);
  const [told, setTold] = useState("");
  useEffect(() => {
    if (!asking) return;
    const listen = (e: KeyboardEvent) => {
      const key = written(e);
      if (key === null || key === "Tab") return;
      e.preventDefault();
      e.stopPropagation();
      setAsking(null);
      if (key === "Escape") return;
      const other = takenBy(useKeyTable.getState(), asking, key);
      if (other) setTold(`${shownKey(key)} is the key of “${KEYED[other].label}” already: give that another first.`);
      else {
        setTold("");
        putKey(asking, key);
      }
    };
    // Before anything else hears of it.
    window.addEventListener("keydown", listen, true);
    return () => window.removeEventListener("keydown", listen, true);
  }, [asking]);
  return (
    <div className="grid max-h-[70vh] grid-rows-[auto_minmax(0,1fr)] gap-2">
      <div className="flex items-center gap-2">
        <Toggle label={t("One-letter keys")} on={table.bare} onChange={letBare} />
        <span>{t("One-letter keys")}</span>
        <span role="status" className="text-warn">
          {told}
        </span>
        <Button
          className="ml-auto"
          disabled={Object.keys(table.mine).length === 0}
          onClick={() => {
            setTold("");
            putAllBack();
          }}
        >
          {t("Put all back")}
        </Button>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 wide:grid-cols-2 overflow-y-auto">
        {PLACES.map((place) => (
          <section key={place} aria-label={t("Keys: {{place}}", { place })} className={place === "Bench" ? "row-span-4" : ""}>
            <h3 className="font-semibold">{place === "everywhere" ? t("Everywhere") : t("On the {{place}}", { place: t(place) })}</h3>
            <ul>
              {KEY_IDS.filter((id) => KEYED[id].where === place).map((id) => {
                const key = keyOf(table, id);
                const off = isBare(key) && !table.bare;
                return (
                  <li key={id} className="flex items-center gap-2 border-t border-hair py-1">
                    <span className={off ? "text-muted" : ""}>{KEYED[id].label}</span>
                    <button
                      type="button"
                      aria-label={t("Key of {{label}}: {{v1}}; press to give another", { label: KEYED[id].label, v1: shownKey(key) || "none" })}
                      className={`num ml-auto min-h-7 min-w-24 rounded border px-2 ${asking === id ? "border-draft text-draft" : "border-line bg-raised"} ${off ? "text-muted line-through" : ""}`}
                      onClick={() => setAsking(asking === id ? null : id)}
                    >
                      {asking === id ? t("press a key…") : shownKey(key) || t("none")}
                    </button>
                    <Button className="!min-h-7 !px-2 !py-0" aria-label={t("Take the key off {{label}}", { label: KEYED[id].label })} disabled={key === ""} onClick={() => putKey(id, "")}>
                      {t("Off")}
                    </Button>
                  </li>
                );
              })}
            </ul>
          </section>
        ))}
      </div>
      <p className="text-[12px] text-muted">{t("Keys rest while a list, a dialog or a field has the keyboard. Arrow up and down change the stand-in force on the sheet that is drawn on.")}</p>
    </div>
  );
}
