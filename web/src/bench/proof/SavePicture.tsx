/** Saves the proof sheet, a strip or the free row as a picture at a resolution of its own, or on a page at true size. */

import { RadioGroup } from "radix-ui";
import { useState } from "react";
import { engine } from "../../engine/client";
import { strokeOfRow, type Column, type PicturePage } from "../../engine/types";
import { refusalOf } from "../../model/refused";
import { useBenchContext } from "../../session/context";
import { useLooking } from "../../session/looking";
import { tellDone } from "../../session/notices";
import { STRIP_MM } from "../../session/sheetSize";
import { useBench, useDocument } from "../../session/store";
import { Button, Dialog, NumberField } from "../../ui/controls";
import { saveFile } from "../../ui/saveFile";
import { LEAST_DPI, MOST_DPI, MOST_PIXELS, pngOf, rowOf, sheetOf, sizeOf, stripOf, type WantedSheet } from "./picture";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

type What = "sheet" | "strip" | "row";
type Form = "png" | "pdf";

export function SavePicture() {
  const open = useLooking((s) => s.open === "save");
  const close = () => useLooking.setState({ open: null });
  return (
    <Dialog open={open} title={t("Save a picture")} onClose={close}>
      {open && <Choices onDone={close} />}
    </Dialog>
  );
}

/** What can be saved now: the sheet as it stands, the selected gesture's draft strip, the free row in mm. */
function useWanted() {
  const { gestures } = useBenchContext();
  const tool = useBench((s) => s.tool);
  const against = useBench((s) => s.against);
  const third = useLooking((s) => s.third);
  const selected = useBench((s) => s.gesture);
  const strokes = useBench((s) => s.now?.pad.length ?? 0);
  const draft = useDocument();
  const gesture = gestures.find((g) => g.id === selected) ?? gestures[0];
  const rowMm = useLooking((s) => s.rowMm);
  const free = strokes > 0 ? rowMm : null;
  const columns: { column: Column; name: string }[] = [
    { column: "kept", name: against?.name ?? `kept v${tool?.kept.number ?? 1}` },
    { column: "draft", name: "draft" },
    ...(third ? [{ column: "third" as const, name: third.name }] : []),
  ];
  const name = draft?.name ?? "Proof sheet";
  const sheet: WantedSheet = { title: name, columns, rows: gestures, free };
  return { name, sheet, gesture, free };
}

function Choices({ onDone }: { onDone: () => void }) {
  const { name, sheet, gesture, free } = useWanted();
  const onRow = useBench((s) => s.gesture !== null && strokeOfRow(s.gesture) !== null);
  const [what, setWhat] = useState<What>(onRow && free ? "row" : "sheet");
  const [form, setForm] = useState<Form>("png");
  const [dpi, setDpi] = useState(300);
  const [laid, setLaid] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const pixelMm = 25.4 / dpi;
  const [width, height] = what === "sheet" ? sizeOf(sheet) : what === "strip" ? [STRIP_MM.width, STRIP_MM.height] : [free?.width ?? 0, free?.height ?? 0];
  const [across, down] = [Math.round(width / pixelMm), Math.round(height / pixelMm)];
  const tooLarge = across * down > MOST_PIXELS ? `At most ${Math.floor(dpi * Math.sqrt(MOST_PIXELS / (across * down)))} dpi for so much paper.` : null;

  const page = async (): Promise<PicturePage> => {
    if (what === "sheet") return sheetOf(sheet, pixelMm, setLaid);
    const one = what === "strip" ? await stripOf("draft", gesture?.id ?? "", pixelMm) : await rowOf(free ?? STRIP_MM, pixelMm);
    const margin = form === "pdf" ? 10 : 0;
    const caption = { text: `${name}, ${what === "strip" ? (gesture?.name ?? "") : "free row"}`, leftMm: margin, baseMm: margin + 4, sizePt: 9, grey: 0.1 };
    const head = form === "pdf" ? 6 : 0;
    return {
      title: name,
      widthMm: width + 2 * margin,
      heightMm: height + 2 * margin + head,
      pixelMm,
      pictures: [{ ...one, leftMm: margin, topMm: margin + head }],
      captions: form === "pdf" ? [caption] : [],
    };
  };
  const save = async () => {
    setProblem(null);
    setLaid(0);
    try {
      const made = await page();
      // A picture alone is exactly its own pixels.
      const only = what === "sheet" ? null : made.pictures[0];
      const bytes = form === "pdf" ? await engine.pdfOf(made) : only ? await engine.pngOf(only.rgba, only.width, only.height, pixelMm) : await pngOf(made);
      const part = what === "sheet" ? "proof sheet" : what === "strip" ? (gesture?.name ?? "strip") : "free row";
      saveFile(`${name}, ${part}.${form}`, form === "pdf" ? "application/pdf" : "image/png", bytes);
      tellDone(t("{{name}}, {{part}} was saved at {{dpi}} dpi.", { name, part, dpi }));
      onDone();
    } catch (error) {
      setProblem(refusalOf(error).message);
    } finally {
      setLaid(null);
    }
  };
  const strips = sheet.columns.length * sheet.rows.length + (free ? 1 : 0);
  return (
    <div className="grid gap-3">
      <Pick
        label={t("What")}
        value={what}
        options={[["sheet", "The proof sheet", true], ["strip", `The draft's strip, ${gesture?.name ?? ""}`, gesture !== undefined], ["row", "The free row", free !== null]]}
        onChange={setWhat}
      />
      <Pick label={t("As")} value={form} options={[["png", "PNG, a picture that knows its size", true], ["pdf", "PDF, a page at true size with captions", true]]} onChange={setForm} />
      <div className="flex items-center gap-2">
        <span>{t("Resolution")}</span>
        <NumberField label={t("Resolution")} value={dpi} low={LEAST_DPI} high={MOST_DPI} step={1} onCommit={setDpi} />
        <span className="text-muted">{t("dpi")}</span>
        <span className="num ml-auto text-muted" data-testid="picture-size">
          {across} × {down}{" "}{t("pixels,")}{" "}{fixed(width)} × {fixed(height)}{" "}{t("mm")}
        </span>
      </div>
      {(problem ?? tooLarge) && (
        <p role="alert" className="text-warn">
          {problem ?? tooLarge}
        </p>
      )}
      <div className="flex items-center justify-end gap-2">
        {laid !== null && (
          <span role="status" className="mr-auto text-muted">
            {what === "sheet" ? t("laying {{v0}} of {{strips}}…", { v0: Math.min(laid + 1, strips), strips }) : t("laying…")}
          </span>
        )}
        <Button onClick={onDone}>{t("Cancel")}</Button>
        <Button primary disabled={laid !== null || tooLarge !== null} onClick={() => void save()}>
          {t("Save")}
        </Button>
      </div>
    </div>
  );
}

function Pick<T extends string>({ label, value, options, onChange }: { label: string; value: T; options: [T, string, boolean][]; onChange: (value: T) => void }) {
  return (
    <div className="grid gap-1">
      <span className="font-semibold">{label}</span>
      <RadioGroup.Root aria-label={label} value={value} onValueChange={(v) => onChange(v as T)} className="grid gap-0.5">
        {options.map(([v, text, there]) => (
          <label key={v} className={`flex min-h-7 items-center gap-2 ${there ? "" : "text-muted"}`}>
            <RadioGroup.Item value={v} disabled={!there} className="grid h-5 w-5 shrink-0 disabled:opacity-45 place-items-center rounded-full border border-muted bg-raised">
              <RadioGroup.Indicator className="h-2.5 w-2.5 rounded-full bg-draft" />
            </RadioGroup.Item>
            {text}
          </label>
        ))}
      </RadioGroup.Root>
    </div>
  );
}
