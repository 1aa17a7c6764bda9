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
    says:
      "Which routes you offer and how you work them: " +
      "approaches, planned time, wording, steps left out or added.",
  },
  {
    to: "/drawers",
    title: "Drawers",
    says: "Shims, washers, dowels, circlips, cans: what is where, and what is running low.",
  },
  {
    to: "/gauges",
    title: "Gauges",
    says: "Your measuring tools: smallest division, permitted error, calibration due.",
  },
  {
    to: "/practice",
    title: "Practice",
    says: "An axle, a housing or a fault to try your hand on, and how it went. None of it is recorded.",
  },
  {
    to: "/account",
    title: "People",
    says: "Accounts, connected programs, your password and where you are signed in.",
  },
] as const;
