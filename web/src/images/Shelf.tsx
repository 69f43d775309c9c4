/** The painter's grey images: taken in from files, pasted, dropped or captured from the free row; named, tagged, chosen. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { addImage, imageFile, listImages, removeImage, replaceImage, usesOfImage, type Image } from "../api/client";
import { nameImage } from "../session/changing";
import { changingTools } from "../session/saving";
import { Button, Dialog } from "../ui/controls";
import { FileButton } from "../ui/FileButton";
import { Capture } from "./Capture";
import { changedElsewhere } from "../model/refused";
import { t } from "../model/said";

const MOST_BYTES = 32 * 1024 * 1024;
const TYPES = "image/png,image/jpeg,image/webp";

interface ShelfProps {
  title: string;
  /** Hash of the image in use; empty for none. */
  chosen: string;
  onChoose: (image: Image) => void;
  onClose: () => void;
}

export function Shelf({ title, chosen, onChoose, onClose }: ShelfProps) {
  const images = useQuery({ queryKey: ["images"], queryFn: listImages });
  const queries = useQueryClient();
  const [told, setTold] = useState("");
  const [search, setSearch] = useState("");
  const [capturing, setCapturing] = useState(false);
  /** What another image is being chosen for. */
  const [replacing, setReplacing] = useState<Image | null>(null);
  const [replaced, setReplaced] = useState<{ from: Image; by: Image; places: string[] } | null>(null);
  const say = (error: unknown) => setTold(error instanceof Error ? error.message : String(error));
  const change = async (work: () => Promise<unknown>) => {
    try {
      setReplaced(null);
      const said = await work();
      setTold(typeof said === "string" ? said : "");
      await queries.invalidateQueries({ queryKey: ["images"] });
      return true;
    } catch (error) {
      await queries.invalidateQueries({ queryKey: ["images"] });
      say(changedElsewhere(error) ?? error);
      return false;
    }
  };
  const all = images.data ?? [];
  const free = (wanted: string) => {
    let name = wanted.slice(0, 70) || "Image";
    for (let n = 2; all.some((i) => i.name === name); n++) name = `${wanted.slice(0, 66)}, ${n}`;
    return name;
  };
  const takeIn = (file: Blob, name: string) =>
    change(async () => {
      if (file.size > MOST_BYTES) throw new Error(t("{{name}}: may be at most 32 MiB", { name }));
      const { image, changes } = await addImage(free(name), file);
      return [`${image.name}, ${image.width} × ${image.height} px, is on the shelf`, ...changes].join("; ");
    });
  const files = async (list: File[]) => {
    for (const f of list) if (!(await takeIn(f, f.name.replace(/\.[^.]*$/, "")))) return;
  };
  useEffect(() => {
    const pasted = (e: ClipboardEvent) => {
      const found = Array.from(e.clipboardData?.files ?? []).filter((f) => TYPES.includes(f.type));
      if (found.length === 0) return;
      e.preventDefault();
      void files(found);
    };
    window.addEventListener("paste", pasted);
    return () => window.removeEventListener("paste", pasted);
  });
  const words = search.trim().toLowerCase();
  const found = all.filter((i) => [i.name, ...i.tags].join(" ").toLowerCase().includes(words));
  const replace = (from: Image, by: Image, only?: string[]) =>
    change(async () => {
      let told = "";
      let places: string[] = [];
      await changingTools(async () => {
        const all = await replaceImage(from.hash, by.hash, only);
        told = all.length > 0 ? `${by.name} stands in for ${from.name} in ${all.map((r) => r.name).join(", ")}` : `Nothing needs ${from.name} now`;
        places = all.map((r) => r.id);
        return places;
      });
      await Promise.all(["tools", "grounds"].map((key) => queries.invalidateQueries({ queryKey: [key] })));
      setReplacing(null);
      if (!only && places.length > 0) setReplaced({ from, by, places });
      return told;
    });
  const remove = (image: Image) =>
    void change(async () => {
      await removeImage(image.id);
      return `${image.name} was taken away`;
    });
  return (
    <Dialog open wide title={title} onClose={onClose}>
      <div
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          void files(Array.from(e.dataTransfer.files));
        }}
      >
        <div className="flex flex-wrap items-center gap-2 pb-2">
          <FileButton text={t("Take in…")} label={t("Image files (PNG, JPEG, WebP)")} accept={TYPES} multiple onFiles={(f) => void files(f)} />
          <Button aria-pressed={capturing} onClick={() => setCapturing(!capturing)}>
            {t("Capture from the free row")}
          </Button>
          <span className="text-muted">{t("or paste, or drop here: at most 4096 px a side, 32 MiB")}</span>
          <input type="search" aria-label={t("Find images")} placeholder={t("Name or tag")} className="ml-auto w-36 rounded border border-line bg-raised px-2 py-1" value={search} onChange={(e) => setSearch(e.target.value)} />
        </div>
        {told && (
          <p role="status" className="border-y border-hair py-1">
            {told}
            {replaced && (
              <Button className="ml-2 !min-h-6 !py-0" onClick={() => void replace(replaced.by, replaced.from, replaced.places)}>
                {t("Put back")}
              </Button>
            )}
          </p>
        )}
        {replacing && (
          <p role="status" className="flex items-center gap-2 border-y border-hair py-1">
            {t("Choose the image that is to stand in for")}{" "}{replacing.name}{" "}{t("wherever it is needed. Tools are kept as their next version.")}
            <Button className="ml-auto !min-h-6 !py-0" onClick={() => setReplacing(null)}>
              {t("Not now")}
            </Button>
          </p>
        )}
        {capturing && <Capture onCapture={(png) => void takeIn(png, "From the sheet").then((done) => done && setCapturing(false))} />}
        <ul aria-label={t("Images")} className="grid max-h-[46vh] grid-cols-2 gap-2 overflow-y-auto py-1 wide:grid-cols-3">
          {found.map((image) => (
            <One
              key={image.id}
              image={image}
              used={image.hash === chosen}
              replacing={replacing}
              change={change}
              onChoose={() => (replacing ? void replace(replacing, image) : onChoose(image))}
              onReplace={() => setReplacing(image)}
              onRemove={() => remove(image)}
            />
          ))}
          {images.isSuccess && found.length === 0 && <li className="text-muted">{t("No image yet.")}</li>}
        </ul>
      </div>
    </Dialog>
  );
}

interface OneProps {
  image: Image;
  used: boolean;
  replacing: Image | null;
  change: (work: () => Promise<unknown>) => Promise<boolean>;
  onChoose: () => void;
  onReplace: () => void;
  onRemove: () => void;
}

function One({ image, used, replacing, change, onChoose, onReplace, onRemove }: OneProps) {
  const uses = useQuery({ queryKey: ["images", image.hash, "uses"], queryFn: () => usesOfImage(image.hash), staleTime: 0, refetchOnMount: "always" });
  const [name, setName] = useState(image.name);
  const [tags, setTags] = useState(image.tags.join(", "));
  const take = () => {
    const list = tags.split(",").map((t) => t.trim()).filter(Boolean);
    if (name.trim() !== image.name || list.join() !== image.tags.join()) void change(() => nameImage(image, name.trim(), list).then(() => undefined));
  };
  const enter = (e: React.KeyboardEvent) => e.key === "Enter" && take();
  const users = uses.data ?? [];
  return (
    <li className={`rounded border p-1.5 ${used ? "border-draft" : "border-line"}`}>
      <button type="button" className="block w-full" aria-pressed={used} aria-label={replacing ? t("Put {{name}} in the place of {{v1}}", { name: image.name, v1: replacing.name }) : t("Use {{name}}", { name: image.name })} disabled={replacing?.id === image.id} onClick={onChoose}>
        <img alt="" src={imageFile(image.hash)} className="h-20 w-full bg-black object-contain" />
      </button>
      <input aria-label={t("Name of {{name}}", { name: image.name })} className="mt-1 w-full rounded border border-transparent bg-raised px-1 font-semibold hover:border-line" value={name} onChange={(e) => setName(e.target.value)} onBlur={take} onKeyDown={enter} />
      <input aria-label={t("Tags of {{name}}", { name: image.name })} placeholder={t("tags")} className="w-full rounded border border-transparent bg-raised px-1 text-[12px] hover:border-line" value={tags} onChange={(e) => setTags(e.target.value)} onBlur={take} onKeyDown={enter} />
      <span className="flex items-center gap-2 text-[12px] text-muted">
        <span className="num shrink-0">
          {image.width} × {image.height}
        </span>
        <span className="truncate" title={users.join(", ")}>
          {users.length > 0 ? t("in {{v0}}", { v0: users.join(", ") }) : t("not used")}
        </span>
      </span>
      <span className="flex justify-end gap-1.5 text-[12px]">
        <Button className="!min-h-6 !px-1.5 !py-0" disabled={users.length === 0} aria-label={t("Replace {{name}} wherever it is needed", { name: image.name })} title={t("Put another image in its place, wherever it is needed")} onClick={onReplace}>
          {t("Replace…")}
        </Button>
        <Button className="!min-h-6 !px-1.5 !py-0" disabled={users.length > 0} title={users.length > 0 ? t("Needed by {{v0}}", { v0: users.join(", ") }) : t("Take away")} onClick={onRemove}>
          {t("Take away")}
        </Button>
      </span>
    </li>
  );
}
