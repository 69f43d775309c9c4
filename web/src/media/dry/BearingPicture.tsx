/** Ground: how deep the stick stands in the tooth, and the figures of the ground. */

import { Bearing } from "../../plot/Bearing";
import { useSize } from "../../plot/useSize";
import { useDeclared } from "../../session/context";
import { useDocument } from "../../session/store";
import { useCursorDab } from "../../session/useCursorDab";
import { useGround } from "../../session/useEngine";

export function BearingPicture() {
  const figures = useGround(useDocument());
  const dab = useCursorDab();
  const { columnOf } = useDeclared();
  const { ref, size } = useSize<HTMLDivElement>();
  return (
    <div>
      <div ref={ref}>{figures && size.width > 0 && <Bearing figures={figures} load={dab ? columnOf(dab, "load") : 0} width={size.width} />}</div>
      {figures && (
        <p className="num py-1 text-[12px] text-muted" data-testid="texture">
          Sa {figures.texture.sa_um.toFixed(1)} Sq {figures.texture.sq_um.toFixed(1)} Sz {figures.texture.sz_um.toFixed(0)} µm · Ssk {figures.texture.ssk.toFixed(2)} Sku{" "}
          {figures.texture.sku.toFixed(2)}
        </p>
      )}
    </div>
  );
}
