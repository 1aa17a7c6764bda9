import type { components } from "./schema.gen";

type S = components["schemas"];

export type Quantity = { value: number; unit: string };
export type Person = S["Person"];
export type Session = S["SessionView"];
export type OpenSession = S["OpenSession"];
export type Problem = S["Problem"];
export type Rebuild = S["Rebuild"];
export type Board = S["BoardView"];
export type Sheet = S["Sheet"];
export type StepStatus = S["StepStatus"];
/** A step as its kind shows it; the field kind tells which. */
export type StepView = S["StepView"];
export type Kind = StepView["kind"];
export type StepOf<K extends Kind> = Extract<StepView, { kind: K }>;
export type EntryView = S["EntryView"];
export type Entry = S["Entry"];
/** An entry that was kept, with sheet and step as they are now. */
export type Written = S["Written"];
export type StackPart = S["StackPart"];
export type Trial = S["Trial"];
export type TorqueView = S["TorqueView"];
export type ItemView = S["ItemView"];
export type AskView = S["AskView"];
export type Answer = S["Answer"];
export type Instrument = S["GaugeView"];
export type PlanCopy = S["Copy"];
export type PackOffered = S["ShimPackOffered"];
export type RecordView = S["Record"];
export type Vehicle = S["Vehicle"];
export type Unit = S["UnitOfMeasure"];
export type Assembly = S["Unit"];
export type Units = readonly Unit[] | undefined;
export type Body = S["Body"];
export type Act = S["Act"];
export type PersonView = S["PersonView"];
export type PersonChange = S["PersonChange"];
export type WeighedView = S["WeighedView"];
export type OpenAct = S["OpenAct"];
export type FigureView = S["FigureView"];
export type SheetPage = S["SheetPage"];
export type SheetLine = S["SheetLine"];
export type RoutePage = S["RoutePage"];
export type RouteLine = S["RouteLine"];
export type OwnRoute = S["OwnRouteSent"];
export type Change = S["Change"];
export type DrawerPage = S["DrawerPage"];
export type DrawerItem = S["DrawerItem"];
export type DrawerLine = S["DrawerLine"];
export type BenchView = S["BenchView"];
export type Shop = S["Shop"];
export type ShopView = S["ShopView"];
export type Program = S["Program"];
export type ProgramAdded = S["ProgramAdded"];
export type Origin = NonNullable<FigureView["origin"]>;
export type Customer = S["Customer"];
export type CustomerPage = S["CustomerPage"];
export type Found = S["Found"];
export type Find = S["Find"];
export type UnitPage = S["UnitPage"];
export type Trend = S["Trend"];
export type Facts = S["Facts"];
export type Measured = S["Measured"];

/** What a person says with an entry: one of the acts. A value may be the text that was typed. */
export type Draft = S["DraftIn"];

type Fields<U> = U extends unknown ? keyof U : never;
type FieldOf<U, K> = U extends unknown ? (K extends keyof U ? U[K] : never) : never;

/** A draft to be read, whichever act it is. */
export type AnyDraft = { [K in Fields<Draft>]?: FieldOf<Draft, K> } & Pick<Draft, "act">;

export type Verdict = S["Verdict"] | "";

/** Whether an act can be done now. */
export const may = (view: StepView, act: string) => view.acts.some((a) => a.act === act);

/** The entry that stands at a place, if there is one. */
export const liveAt = (entries: EntryView[], act: string, item = "") =>
  entries.find((e) => e.act === act && (e.item ?? "") === item && !e.superseded_by);
