/** Where the shop's things stand. */
export const rooms = [
  {
    to: "/sheets",
    title: "Spec sheets",
    says: "Limits, torques, fills and figures of each family, with their versions.",
  },
  {
    to: "/routes",
    title: "Routes",
    says: "Which ones you offer, and how you go them: schools, minutes, words, steps left out or put in.",
  },
  {
    to: "/drawers",
    title: "Drawers",
    says: "Shims, washers, dowels, circlips, cans: what lies where, and what is short.",
  },
  {
    to: "/gauges",
    title: "Gauges",
    says: "What is read with: division, permitted error, when the calibration is due.",
  },
  {
    to: "/account",
    title: "People",
    says: "Who works here, other programs, your own password and sessions.",
  },
] as const;
