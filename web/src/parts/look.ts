/** A line of a list that one picks from, with an edge for where one is. */
export const pickable =
  "min-h-11 border-b border-hair last:border-b-0 cursor-pointer border-l-5 border-l-transparent";

/** The line that the keys stand on. */
export const underKeys = "data-focus:bg-tint data-focus:border-l-blue";
