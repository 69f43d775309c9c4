/** Mix: where the paint of the selected stroke came from and went. */

import { Balance } from "../Balance";

export const Moved = () => <Balance of="Paint" digits={2} places={{ brought: "Loaded", held_before: "In the brush before", held: "In the brush now" }} />;
