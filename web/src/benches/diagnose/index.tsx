import { bench } from "../bench";
import { DiagnosisMeaning } from "./DiagnosisMeaning";

export default bench<"diagnose">({
  calc: "diagnose",
  Drawing: ({ questions }) => questions,
  Meaning: ({ out }) => out && <DiagnosisMeaning out={out} />,
});
