/** A calibration proposed from light, normal and firm marks of the painter's own, shown on those marks. */

import { useEffect } from "react";
import { say, tellDone } from "../session/notices";
import { useBench } from "../session/store";
import { engine } from "../engine/client";
import { PACKED } from "../engine/types";
import { Button } from "../ui/controls";
import { decide, KINDS, undo, tryOut, useHand, type Kind, type Mark } from "../session/handStore";
import { refusalOf } from "../model/refused";
import { t, worded } from "../model/said";

const pressuresOf = (marks: Mark[], kind: Kind) =>
  marks.filter((m) => m.kind === kind).map((m) => m.samples.filter((_, i) => i % PACKED === 3));

export function Propose() {
  const hand = useBench((s) => s.hand);
  const marks = useHand((s) => s.marks);
  const marking = useHand((s) => s.marking);
  const proposal = useHand((s) => s.proposal);
  // A proposal on trial is not carried out of the door.
  useEffect(
    () => () => {
      decide(false);
      useHand.setState({ marking: null });
    },
    [],
  );
  const count = (kind: Kind) => marks.filter((m) => m.kind === kind).length;
  const ready = KINDS.every((k) => count(k) > 0);
  const missing = KINDS.filter((k) => count(k) === 0);
  const propose = async () => {
    try {
      const made = await engine.propose(
        { light: pressuresOf(marks, "light"), normal: pressuresOf(marks, "normal"), firm: pressuresOf(marks, "firm") },
        hand.profile,
      );
      tryOut(made);
    } catch (error) {
      const { field, message } = refusalOf(error);
      say(field ? `${field[0]?.toUpperCase()}${field.slice(1)}: ${message}` : message);
    }
  };
  const accept = () => {
    decide(true);
    tellDone(t("The proposed calibration is in front of every tool now."), undo);
  };
  return (
    <section aria-label={t("Propose a calibration")} className="border-t border-line pt-1">
      <div className="flex items-center gap-1">
        <h2 className="mr-auto font-semibold">{t("From your marks")}</h2>
        {KINDS.map((kind) => (
          <Button
            key={kind}
            className={`!min-h-7 !px-2 !py-0 ${marking === kind ? "!border-draft font-semibold text-draft" : ""}`}
            aria-pressed={marking === kind}
            onClick={() => useHand.setState({ marking: marking === kind ? null : kind })}
          >
            {kind} <span className="num">{count(kind)}</span>
          </Button>
        ))}
        <Button primary className="!min-h-7 !px-2 !py-0" disabled={!ready || proposal !== null} onClick={() => void propose()}>
          {t("Propose")}
        </Button>
      </div>
      {proposal ? (
        <div role="status" className="py-1">
          <p data-testid="proposal">{worded(proposal.sentence)}</p>
          <div className="flex items-center gap-1 pt-1">
            <span className="text-muted">{t("Shown on your marks; what you change now adjusts it.")}</span>
            <Button primary className="ml-auto !min-h-7 !py-0" onClick={accept}>
              {t("Accept")}
            </Button>
            <Button className="!min-h-7 !py-0" onClick={() => decide(false)}>
              {t("Discard")}
            </Button>
          </div>
        </div>
      ) : (
        <p className="py-1 text-muted">
          {!ready && count("light") + count("normal") + count("firm") > 0 && t("Propose waits for {{v0}} marks. ", { v0: missing.join(" and ") })}
          {marking ? t("Draw two or three {{marking}} marks on the pad.", { marking }) : ready ? t("Marks of all three kinds are there: Propose makes a calibration of them.") : t("Choose a kind, draw a few marks as you would when you draw, then the next kind.")}
        </p>
      )}
    </section>
  );
}
