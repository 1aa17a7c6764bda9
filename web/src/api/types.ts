import type { components } from "./schema.gen";

type S = components["schemas"];

export type Quantity = { value: number; unit: string };
export type Person = S["WorkshopPerson"];
export type Session = S["HttpapiSessionView"];
export type OpenSession = S["HttpapiOpenSession"];
export type Problem = S["HttpapiProblem"];
export type Rebuild = S["WorkshopRebuild"];
export type Board = S["HttpapiBoardView"];
export type Sheet = S["WorkshopSheet"];
export type StepStatus = S["WorkshopStepStatus"];
export type StepView = S["WorkshopStepView"];
export type EntryView = S["WorkshopEntryView"];
export type Entry = S["WorkshopEntry"];
export type StackPart = S["WorkshopStackPart"];
export type Trial = S["WorkshopTrial"];
export type TorqueView = S["WorkshopTorqueView"];
export type Item = S["PlanItem"];
export type Ask = S["PlanAsk"];
export type Step = S["PlanStep"];
export type PlanCopy = S["PlanCopy"];
export type FloatOut = S["ShimFloatOut"];
export type PackOffered = S["ShimPackOffered"];
export type RecordView = S["WorkshopRecord"];
export type Vehicle = S["WorkshopVehicle"];
export type Unit = S["QuantityUnit"];

type DraftIn = S["HttpapiDraftIn"];

/** What a person says with an entry; see workshop.Draft. A value may be the text that was typed. */
export type Draft = Omit<DraftIn, "value"> & { value?: Quantity | string };

/**
 * A draft as the description of the API has it. It describes a quantity as an
 * object; that it may also be a text, and any unit at all, is for the server to judge.
 */
export const asBody = (draft: Draft) => draft as DraftIn;

/** The body of an entry as it was said. */
export type Body = Omit<Draft, "act" | "item" | "supersedes" | "value"> & { value?: Quantity };

export type Verdict = "in" | "out" | "undecided" | "none" | "";

export const bodyOf = (e: { body: unknown }): Body => e.body as Body;
