import { benchMessages } from "./bench";
import { generalMessages } from "./general";
import { peopleMessages } from "./people";
import { shelfMessages } from "./shelf";
import { traceMessages } from "./traces";
import { workMessages } from "./work";

/** Every text of the interface; another language is other files of the same shape. */
export const messages = { ...generalMessages, ...peopleMessages, ...benchMessages, ...workMessages, ...traceMessages, ...shelfMessages } as const;
