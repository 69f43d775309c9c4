/** The proof sheet: a row a gesture, a column a tool, and the free row. */

import { Suspense, lazy, useEffect, useMemo } from "react";
import type { Column } from "../../engine/types";
import { useSize } from "../../plot/useSize";
import { showIn } from "../../session/columns";
import { useBenchContext } from "../../session/context";
import { useLooking } from "../../session/looking";
import { useProof } from "../../session/proofStore";
import { GAP, STRIP_MM, layOut } from "../../session/sheetSize";
import { useBench } from "../../session/store";
import { Head } from "./Head";
import { LoupeGlass } from "./Loupe";
import { Pad } from "./Pad";
import { Row } from "./Row";
import { t } from "../../model/said";

const MeasureScreen = lazy(() => import("./MeasureScreen").then((m) => ({ default: m.MeasureScreen })));
const PickThird = lazy(() => import("./PickThird").then((m) => ({ default: m.PickThird })));
const SavePicture = lazy(() => import("./SavePicture").then((m) => ({ default: m.SavePicture })));

const TWO: Column[] = ["kept", "draft"];
const THREE: Column[] = ["kept", "draft", "third"];

export function Proof() {
  const { gestures } = useBenchContext();
  const { ref, size } = useSize<HTMLDivElement>();
  const padOpen = useBench((s) => s.padOpen);
  const columns = useLooking((s) => s.third !== null) ? THREE : TWO;
  const rows = useLooking((s) => s.rows);
  const pxPerMm = useLooking((s) => s.pxPerMm);
  const over = useLooking((s) => s.open);
  const forPen = useLooking((s) => s.forPen);
  const layout = useMemo(() => layOut(size, gestures.length, columns.length, rows, pxPerMm, forPen), [size, gestures.length, columns, rows, pxPerMm, forPen]);
  const { strip, stacked } = layout;
  const ready = size.width > 0;
  const scale = window.devicePixelRatio || 1;
  const pixelMm = STRIP_MM.width / Math.round(strip.width * scale);
  useEffect(() => {
    if (!ready) return;
    showIn({ gestures, strip, scale });
    return () => showIn(null);
  }, [ready, gestures, strip, scale]);

  return (
    <div ref={ref} className="relative h-full min-h-0 min-w-0">
      <Sheet flows={stacked && rows === "fit"}>
        {ready && <Head layout={layout} columns={columns} />}
        {ready && gestures.map((g) => <Row key={g.id} id={g.id} name={g.name} note={g.note} layout={layout} columns={columns} />)}
        {ready && (
          <Pad
            width={padOpen ? size.width : stacked ? strip.width : Math.min(columns.length * (strip.width + GAP) - GAP, 2 * strip.width + GAP)}
            height={padOpen ? Math.max(size.height - 34, 160) : strip.height}
            layout={layout}
            pixelMm={pixelMm}
          />
        )}
      </Sheet>
      <LoupeGlass />
      <Suspense>
        {over === "measure" && <MeasureScreen />}
        {over === "third" && <PickThird />}
        {over === "save" && <SavePicture />}
      </Suspense>
    </div>
  );
}

/** `flows`: it scrolls with the page. Knows alone whether strokes are being laid: what is on it is not drawn anew for that. */
function Sheet({ flows, children }: { flows: boolean; children: React.ReactNode }) {
  const busy = useProof((s) => s.busy.kept || s.busy.draft || s.busy.third);
  return (
    <section aria-label={t("Proof sheet")} aria-busy={busy} className={`h-full min-w-0 ${flows ? "" : "overflow-auto"}`}>
      {children}
    </section>
  );
}
