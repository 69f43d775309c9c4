/** Ground: how deep the stick stands in the tooth, and the figures of the ground. */

import { Bearing } from "../../plot/Bearing";
import { useSize } from "../../plot/useSize";
import { useDeclared } from "../../session/context";
import { useFollowed } from "../../session/followed";
import { useCursorDab } from "../../session/useCursorDab";
import { useGround } from "../../session/useEngine";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

export function BearingPicture() {
  const figures = useGround(useFollowed());
  const dab = useCursorDab();
  const { columnOf } = useDeclared();
  const { ref, size } = useSize<HTMLDivElement>();
  return (
    <div>
      <div ref={ref}>{figures && size.width > 0 && <Bearing figures={figures} load={dab ? columnOf(dab, "load") : 0} width={size.width} />}</div>
      {figures && (
        <p className="num py-1 text-[12px] text-muted" data-testid="texture">
          {t("Sa")}{" "}{fixed(figures.texture.sa_um, 1)}{" "}{t("Sq")}{" "}{fixed(figures.texture.sq_um, 1)}{" "}{t("Sz")}{" "}{fixed(figures.texture.sz_um)}{" "}{t("µm · Ssk")}{" "}{fixed(figures.texture.ssk, 2)}{" "}{t("Sku")}{" "}
          {fixed(figures.texture.sku, 2)}
        </p>
      )}
    </div>
  );
}
