import { benchMessages } from "./bench";
import { finishMessages } from "./finish";
import { generalMessages } from "./general";
import { peopleMessages } from "./people";
import { shelfMessages } from "./shelf";
import { traceMessages } from "./traces";
import { workMessages } from "./work";

/** Every text of the interface; another language is other files of the same shape. */
export const messages = {
  ...generalMessages,
  ...peopleMessages,
  ...benchMessages,
  ...workMessages,
  ...finishMessages,
  ...traceMessages,
  ...shelfMessages,
} as const;
