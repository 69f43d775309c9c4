/** An image of a tool or ground: which one, and the way to the shelf. */

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { imageFile, listImages } from "../api/client";
import { Button } from "../ui/controls";
import { Shelf } from "./Shelf";
import { t } from "../model/said";

export function ImageField({ label, value, onChange }: { label: string; value: string; onChange: (hash: string) => void }) {
  const images = useQuery({ queryKey: ["images"], queryFn: listImages });
  const [open, setOpen] = useState(false);
  const named = images.data?.find((i) => i.hash === value);
  return (
    <span className="flex items-center gap-1.5">
      {value && <img alt="" src={imageFile(value)} className="h-7 w-10 bg-black object-contain" />}
      <Button className="max-w-44 truncate !px-2" aria-label={`${label}: ${value ? (named?.name ?? t("an image that is not on the shelf")) : t("none")}`} onClick={() => setOpen(true)}>
        {value ? (named?.name ?? t("not on the shelf")) : t("Choose…")}
      </Button>
      {value && (
        <Button className="!px-2" aria-label={t("{{label}}: take out", { label })} onClick={() => onChange("")}>
          {t("None")}
        </Button>
      )}
      {open && (
        <Shelf
          title={label}
          chosen={value}
          onChoose={(image) => {
            onChange(image.hash);
            setOpen(false);
          }}
          onClose={() => setOpen(false)}
        />
      )}
    </span>
  );
}
