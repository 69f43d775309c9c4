/** What came of something, until it is closed; with a way back where there is one. */

import { Button, Notice } from "./controls";

export interface Told {
  text: string;
  bringBack?: (() => Promise<unknown>) | undefined;
}

export function ToldNotice({ told, onBringBack, onClose }: { told: Told; onBringBack: (work: () => Promise<unknown>) => void; onClose: () => void }) {
  const { bringBack } = told;
  return (
    <Notice>
      <span>{told.text}</span>
      <span className="ml-auto flex gap-2">
        {bringBack && (
          <Button className="!min-h-6 !py-0" onClick={() => onBringBack(bringBack)}>
            Bring back
          </Button>
        )}
        <Button className="!min-h-6 !py-0" onClick={onClose}>
          Close
        </Button>
      </span>
    </Notice>
  );
}
