/** Hand: the signals as they are now, what stands in for them, and the recorded gestures of the proof sheet. */

import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { changeGesture } from "../../session/changing";
import { addGesture, gestureFile, type Gesture } from "../../api/client";
import { Button } from "../../ui/controls";
import { FileButton } from "../../ui/FileButton";
import { useBenchContext } from "../../session/context";
import { leaning } from "../../model/tilt";
import { StandInSliders } from "../../draw/StandIns";
import { forceOf, STRAIGHT } from "../../model/hand";
import { useBench } from "../../session/store";
import { say, tellDone } from "../../session/notices";
import { Refused, changedElsewhere } from "../../model/refused";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

export function Hand() {
  const live = useBench((s) => s.live);
  const { profile, calibration } = useBench((s) => s.hand);
  const straight = JSON.stringify(calibration) === JSON.stringify(STRAIGHT);
  const lean = live ? leaning(live.tiltX, live.tiltY) : null;
  const rows: [string, string, number][] = live
    ? [
        ["Pressure", fixed(live.pressure, 3), live.pressure],
        ["Force", `${fixed(forceOf(live.pressure, profile))} gf`, forceOf(live.pressure, profile) / profile.full_gf],
        ["Tilt", `${fixed(lean?.tilt ?? 0)} °`, (lean?.tilt ?? 0) / 90],
        ["Lean", `${fixed(lean?.lean ?? 0)} °`, (lean?.lean ?? 0) / 360],
        ["Barrel", `${fixed(live.twist)} °`, live.twist / 360],
        ["Speed", `${fixed(live.speed)} mm/s`, Math.min(1, live.speed / 500)],
      ]
    : [];
  return (
    <div>
      <h3 className="pb-1 font-semibold">{live ? (live.kind === "pen" ? t("The pen now") : t("Stand-in now")) : t("No pen over the free row")}</h3>
      {!live && <p className="text-muted">{t("Move a pen, a finger or the mouse over the free row to see its signals.")}</p>}
      {rows.map(([label, value, share]) => (
        <div key={label} className="grid grid-cols-[5rem_1fr_5rem] items-center gap-2 border-t border-hair py-1">
          <span>{label}</span>
          <span className="h-2 bg-hair">
            <span className="block h-2 bg-muted" style={{ width: `${100 * Math.min(1, Math.max(0, share))}%` }} />
          </span>
          <span className="num text-right">{value}</span>
        </div>
      ))}
      <h3 className="pb-1 pt-3 font-semibold">{t("Stand-ins")}</h3>
      <p className="pb-2 text-muted">{t("What a mouse or finger does not report. Arrow up and down change the force while drawing.")}</p>
      <StandInSliders />
      <p className="pt-3 text-muted">
        {profile.name}, {fixed(profile.first_gf)}{" "}{t("to")}{" "}{fixed(profile.full_gf)}{" "}{t("gf, calibration")}{" "}{straight ? t("straight") : t("of your own")}:{" "}
        <Link to="/hand" className="underline">
          {t("the Hand screen")}
        </Link>{" "}
        {t("is where both are set.")}
      </p>
      <Gestures />
    </div>
  );
}

/** InkML in and out, and off the proof sheet; the Gestures screen has them all. */
function Gestures() {
  const { gestures } = useBenchContext();
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries({ queryKey: ["gestures"] });
  const change = async (work: () => Promise<unknown>) => {
    try {
      await work();
      await refresh();
      return true;
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      await queries.invalidateQueries({ queryKey: ["gestures"] });
      say(changedElsewhere(error) ?? error.message);
      return false;
    }
  };
  const read = async (chosen: File) => {
    if (chosen.size > MOST_BYTES) return say(t("{{name}}: may be at most 16 MiB", { name: chosen.name }));
    const inkml = await chosen.text();
    await change(() => addGesture(chosen.name.replace(/\.[^.]*$/, "").slice(0, 80), "from a file", inkml));
  };
  const takeOff = async (g: Gesture) => {
    const put = (on_proof: boolean) => change(() => changeGesture(g, { on_proof }));
    if (await put(false)) tellDone(t("{{name}} was taken off the proof sheet.", { name: g.name }), () => void put(true));
  };
  return (
    <section aria-label={t("Gestures")}>
      <div className="flex items-center pb-1 pt-3">
        <h3 className="font-semibold">{t("Gestures on the proof sheet")}</h3>
        <FileButton className="ml-auto !min-h-6 !py-0" text={t("Add InkML…")} label={t("InkML file")} accept=".inkml,.xml,application/inkml+xml" onFiles={([chosen]) => chosen && void read(chosen)} />
      </div>
      {gestures.map((g) => (
        <div key={g.id} className="flex min-h-8 items-center gap-2 border-t border-hair">
          <span>{g.name}</span>
          <span className="truncate text-muted">{g.note}</span>
          <a className="ml-auto min-h-6 rounded border border-line bg-raised px-2 py-0.5" href={gestureFile(g.id)} download aria-label={t("Save {{name}} as InkML", { name: g.name })}>
            {t("Save")}
          </a>
          <Button className="!min-h-6 !px-2 !py-0" aria-label={t("Take {{name}} off the proof sheet", { name: g.name })} onClick={() => void takeOff(g)}>
            {t("Take off")}
          </Button>
        </div>
      ))}
    </section>
  );
}

/** The server's limit for one document. */
const MOST_BYTES = 16 * 1024 * 1024;
