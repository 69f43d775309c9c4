/** The room and the board: how fast water leaves, and which way it runs. For media that go on by themselves. */

import { Popover } from "radix-ui";
import { useDeclared } from "../../session/context";
import { changeRoom, useRoom } from "../../session/room";
import { Compass } from "../../ui/Compass";
import { NumberField } from "../../ui/controls";
import { fixed } from "../../model/number";
import { t } from "../../model/said";

/** What a painter would say of the air. */
const airSaid = (humidity: number) => (humidity < 35 ? t("dry air") : humidity < 65 ? "" : humidity < 85 ? t("moist air") : t("a rainy day"));

export function Room() {
  const { medium, declarations } = useDeclared();
  const room = useRoom((s) => s.room);
  if (!medium.moves || !room) return null;
  const board = room.tilt_deg === 0 ? t("level board") : t("board tilted {{deg}}°", { deg: fixed(room.tilt_deg) });
  return (
    <Popover.Root>
      <Popover.Trigger className="ml-2 min-h-6 truncate text-left text-muted" aria-label={t("Room and board")}>
        {board} <span aria-hidden>⌄</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content aria-label={t("Room and board")} align="start" sideOffset={4} collisionPadding={8} className="z-40 grid w-[26rem] max-w-[calc(100vw-16px)] gap-2 rounded border border-line bg-pane p-3 shadow-lg">
          <div className="flex flex-wrap items-center gap-3">
            <Slope degrees={room.tilt_deg} />
            <div className="grid gap-1">
              <span className="flex items-center gap-1">
                <span className="w-24">{t("Board tilted")}</span>
                <NumberField label={t("Board tilted")} value={room.tilt_deg} low={0} high={75} step={1} width="w-14" onCommit={(tilt_deg) => changeRoom({ tilt_deg })} />
                <span className="text-muted">°</span>
              </span>
              <span className="flex items-center gap-1">
                <span className="w-24">{t("It falls to")}</span>
                <NumberField label={t("It falls to")} value={room.falls_deg} low={0} high={360} step={5} width="w-14" onCommit={(falls_deg) => changeRoom({ falls_deg })} />
                <span className="text-muted">{t("° from the right")}</span>
              </span>
            </div>
            <Compass label={t("Direction in which the board falls")} value={room.falls_deg} now={null} onDrag={(falls_deg) => changeRoom({ falls_deg: Math.round(falls_deg) })} onLetGo={() => undefined} onCommit={(falls_deg) => changeRoom({ falls_deg })} />
          </div>
          <span className="flex items-center gap-1">
            <span className="w-24">{t("Room")}</span>
            <NumberField label={t("Temperature of the room")} value={room.celsius} low={0} high={45} step={1} width="w-14" onCommit={(celsius) => changeRoom({ celsius })} />
            <span className="text-muted">°C</span>
            <NumberField label={t("Humidity of the room")} value={room.humidity} low={0} high={100} step={1} width="w-14" onCommit={(humidity) => changeRoom({ humidity })} />
            <span className="text-muted">
              % {airSaid(room.humidity)}
            </span>
          </span>
          <p className="text-[12px] text-muted">{t("Water leaves for warm dry air and runs down the board. Every strip and the free row are laid anew in this room.")}</p>
          <button type="button" className="min-h-6 justify-self-start text-draft underline" onClick={() => changeRoom(declarations.surroundings)}>
            {t("As usual: level, 20 °C, 50 %")}
          </button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const WIDE = 56;

/** The board from the side. */
function Slope({ degrees }: { degrees: number }) {
  const [x, y] = [WIDE * Math.cos((degrees * Math.PI) / 180), WIDE * Math.sin((degrees * Math.PI) / 180)];
  return (
    <svg width={WIDE + 8} height={WIDE + 8} role="img" aria-label={t("The board from the side, {{deg}}°", { deg: fixed(degrees) })} className="shrink-0">
      <line x1={4} x2={WIDE + 4} y1={WIDE + 4} y2={WIDE + 4} stroke="var(--line)" />
      <line x1={4} y1={WIDE + 4} x2={4 + x} y2={WIDE + 4 - y} stroke="var(--draft)" strokeWidth={4} strokeLinecap="round" />
    </svg>
  );
}
