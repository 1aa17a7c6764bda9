package record

import (
	"time"

	"handwerk/workshop/say"
)

// Missing is what a step still asks for.
type Missing string

// What may be missing; Nothing when the step is done.
const (
	Nothing        Missing = ""
	SheetFigures   Missing = "sheet_figures"   // Count of them, Names are their paths
	Steps          Missing = "steps"           // the gate: Names are the steps before it
	Acknowledged   Missing = "acknowledged"    // Names are cautions
	Lines          Missing = "lines"           // Count of them
	OneLine        Missing = "one_line"        // of several that may each stay away
	Differs        Missing = "differs"         // the line at Place is not as it was
	BadAnswer      Missing = "bad_answer"      // the line at Place is not as it should be, Names says how; no reason yet
	Parts          Missing = "parts"           // Count of them
	Figures        Missing = "figures"         // Count of them
	Readings       Missing = "readings"        // Count of them
	Reckoning      Missing = "reckoning"       // all is there, nobody asked for the answer
	MeasuredAgain  Missing = "measured_again"  // Names is the step whose figure changed since
	Decisive       Missing = "decisive"        // the verdict is undecided
	AnotherPack    Missing = "another_pack"    // out, and a drawer to mend it from
	Mended         Missing = "mended"          // out
	BoltReadings   Missing = "bolt_readings"   // Count of them
	BoltOnSetting  Missing = "bolt_on_setting" // the bolt at Place is off
	CheckRound     Missing = "check_round"     //
	FluidIn        Missing = "fluid"           // and how much
	RightQuantity  Missing = "right_quantity"  //
	ClockStarted   Missing = "clock_started"   //
	ClockOver      Missing = "clock_over"      // Until then
	Decided        Missing = "decided"         //
	AgreedAgain    Missing = "agreed_again"    // the customer said yes to something else
	WhatItWaitsFor Missing = "what_it_waits_for"
	Pictured       Missing = "pictured"
	PartsSaid      Missing = "parts_said"     // what has to come, or that nothing has to
	PartsToOrder   Missing = "parts_to_order" // Count of them
	PartsAwaited   Missing = "parts_awaited"  // Count of them, the last on Due
	PartsLooked    Missing = "parts_looked"   // Names are the stacks that are not looked at yet
)

// Need is what a step still asks for; the zero value is nothing. Words are made
// of it in words.go.
type Need struct {
	What  Missing
	Count int
	Names []string
	Place Place
	Until time.Time
	Due   string // a day; empty where nobody said
	Late  int    // days after the promised date
}

// IsMet tells that nothing is missing.
func (n Need) IsMet() bool { return n.What == Nothing }

// Holds tells that a decision, or what has to come, keeps the rebuild waiting here.
func (n Need) Holds() bool {
	return n.What == WhatItWaitsFor || n.What == PartsAwaited || n.What == BadAnswer
}

// CountNeed is a need of so many, none when nothing is left.
func CountNeed(what Missing, n int) Need {
	if n == 0 {
		return Need{}
	}
	return Need{What: what, Count: n}
}

// ToBuy is something that a step asks to be bought.
type ToBuy struct {
	Line   string // its id on the parts list
	Name   string
	Pieces int
	Why    string
	Part   string // id in its stack, where it is a part of the unit
	Asked  bool   // false: a part of the unit that is good, for now
	Fitted bool
	ByName bool // what the list has by the same name is the same part
}

// FluidPrefix begins the line of a fluid on the parts list.
const FluidPrefix = "fluid."

func awaitedWords(n Need) string {
	words := "waits for " + say.Several(n.Count, "part", "parts")
	switch {
	case n.Due != "" && n.Count == 1:
		words += ", due " + say.DayWords(n.Due)
	case n.Due != "":
		words += ", last due " + say.DayWords(n.Due)
	}
	for _, more := range n.Names {
		words += ", " + more
	}
	if n.Late > 0 {
		words += ", " + say.Several(n.Late, "day", "days") + " after the promised date"
	}
	return words
}
