import { createContext } from "react";

/** Opens the list of keys. */
export const HelpContext = createContext<() => void>(() => {});
