/** The painter's own curves: kept under a name, and taken into any curve editor. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState } from "react";
import { addCurve, listCurves, removeCurve, type KeptCurve } from "../api/client";
import { say, tellDone } from "../session/notices";
import { useCurve } from "../session/useEngine";
import { Button } from "../ui/controls";
import { Refused } from "../model/refused";
import { t } from "../model/said";

type Points = [number, number][];

interface CurveLibraryProps {
  curve: Points;
  onTake: (curve: Points) => void;
}

export function CurveLibrary({ curve, onTake }: CurveLibraryProps) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="min-h-6 rounded border border-line bg-raised px-2" title={t("Curves that you keep")}>
        {t("Curves")}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} collisionPadding={16} aria-label={t("Your own curves")} className="z-50 w-72 rounded border border-line bg-pane p-3 shadow-lg">
          <Kept
            curve={curve}
            onTake={(points) => {
              onTake(points);
              setOpen(false);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Kept({ curve, onTake }: CurveLibraryProps) {
  const curves = useQuery({ queryKey: ["curves"], queryFn: listCurves });
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work();
      await queries.invalidateQueries({ queryKey: ["curves"] });
      return true;
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      say(error.message);
      return false;
    }
  };
  const remove = async (c: KeptCurve) => {
    const done = await attempt(() => removeCurve(c.id));
    if (done) tellDone(t("The curve {{name}} was taken away.", { name: c.name }), () => void attempt(() => addCurve(c.name, c.points)));
  };
  return (
    <>
      {curves.data?.length === 0 && <p className="pb-2 text-muted">{t("None is kept yet.")}</p>}
      <ul aria-label={t("Kept curves")} className="max-h-64 overflow-y-auto">
        {curves.data?.map((c) => (
          <li key={c.id} className="flex items-center gap-1 border-b border-hair">
            <button type="button" className="flex min-h-8 flex-1 items-center gap-2 text-left" onClick={() => onTake(c.points)}>
              <Small points={c.points} />
              {c.name}
            </button>
            <Button className="!min-h-6 !px-2 !py-0" aria-label={t("Take the curve {{name}} away", { name: c.name })} onClick={() => void remove(c)}>
              {t("Take away")}
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="flex gap-1 pt-2"
        onSubmit={(e) => {
          e.preventDefault();
          void attempt(() => addCurve(name, curve)).then((done) => done && setName(""));
        }}
      >
        <input
          aria-label={t("Name of the curve")}
          placeholder={t("Name")}
          className="min-w-0 flex-1 rounded border border-line bg-raised px-2"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" disabled={name.trim() === ""}>
          {t("Keep this curve")}
        </Button>
      </form>
    </>
  );
}

const SIZE = 24;

function Small({ points }: { points: Points }) {
  const samples = useCurve(points);
  const at = (v: number, i: number, all: ArrayLike<number>) => `${(1 + ((SIZE - 2) * i) / (all.length - 1)).toFixed(1)},${(SIZE - 1 - (SIZE - 2) * v).toFixed(1)}`;
  return (
    <svg aria-hidden width={SIZE} height={SIZE} className="shrink-0 bg-raised">
      <polyline points={samples ? Array.from(samples, (v, i) => at(v, i, samples)).join(" ") : ""} fill="none" stroke="var(--draft)" strokeWidth={1.6} />
    </svg>
  );
}
