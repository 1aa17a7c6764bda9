// Package ringpinion sets a ring and pinion: the pinion's depth, the preload
// of its bearings, the backlash, the contact pattern, and all of them together.
//
// The picture: the pinion points at the axis of the carrier bores; its
// mounting distance is how far its head stands from that axis. A thicker shim
// under the head-side bearing moves it in. The ring moves along the carrier's
// axis when shim goes from one side pack to the other; away from the pinion
// means more backlash.
package ringpinion

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Length, Torque are said quantities.
type (
	Length = quantity.Said[quantity.Length]
	Torque = quantity.Said[quantity.Torque]
)

// ShimSide says what a thicker pinion shim does.
type ShimSide string

// Under the head-side bearing a thicker shim moves the pinion in, toward the
// axis; at the flange side out, away from it.
const (
	HeadSide   ShimSide = "head"
	FlangeSide ShimSide = "flange"
)

// largest distance of any of these.
const largest = quantity.Length(1)

// DepthIn asks for the pinion shim, by a tool, by the marks, or both.
type DepthIn struct {
	Nominal  Length   `json:"nominal,omitzero"`  // mounting distance on the sheet
	Mark     Length   `json:"mark,omitzero"`     // etched on the new pinion
	Gauge    Length   `json:"gauge,omitzero"`    // reading of the depth tool
	Constant Length   `json:"constant,omitzero"` // disc and arbor: gauge + constant = axis to head
	Trial    Length   `json:"trial_shim,omitzero"`
	ShimSide ShimSide `json:"shim_side" enum:"head,flange"`
	OldShim  Length   `json:"old_shim,omitzero"`
	OldMark  Length   `json:"old_mark,omitzero"`
	GaugeU   Length   `json:"gauge_uncertainty,omitzero"` // expanded, of one gauge reading
}

// DepthOut is the answer of both approaches.
type DepthOut struct {
	Required    Length `json:"required,omitzero"`
	Measured    Length `json:"measured,omitzero"`
	ByTool      Length `json:"shim_by_tool,omitzero"`
	ByMarks     Length `json:"shim_by_marks,omitzero"`
	Difference  Length `json:"difference,omitzero"`
	Uncertainty Length `json:"uncertainty,omitzero"`
	Says        string `json:"says"`
}

// schoolsAgree within 2 thou; beyond it a reading or a mark is doubtful. Common practice.
const schoolsAgree = 2 * quantity.Thou

// PinionDepth: required = nominal + mark; measured = gauge + constant; shim =
// trial + (measured - required) under the head-side bearing, the other sign at
// the flange. By marks: old shim + (old mark - new mark). Schools differ; both
// stand side by side. Source: geometry; common practice.
func PinionDepth(in DepthIn) (DepthOut, error) {
	var c input.Checks
	sign := in.side(&c)
	tool, marks := in.Gauge.IsSaid() || in.Nominal.IsSaid(), in.OldShim.IsSaid()
	if !tool && !marks {
		c.Add("gauge", "a depth reading with nominal and constant, or the old shim with the old mark",
			"nothing to compute from")
	}
	var out DepthOut
	if tool {
		in.tool(&c, &out, sign)
	}
	if marks {
		in.marks(&c, &out, sign)
	}
	if err := c.Err(); err != nil {
		return DepthOut{}, err
	}
	out.Says = depthWords(&out)
	return out, nil
}

// PinionDepthMethod is PinionDepth as the catalogue lists it.
var PinionDepthMethod = calculator.Define(examples, calculator.About{
	Name: "pinion-depth", Version: 1,
	Purpose: "which shim brings a pinion to its mounting distance",
	Formula: "required = nominal + mark; measured = gauge + constant; shim = trial + (measured − required) " +
		"under the inner pinion bearing; by marks: old shim + (old mark − new mark)",
	Assumes: "marks in units of length; the shim side decides the sign",
	Schools: "depth tool, or the marks of old and new pinion: both answers side by side, their difference " +
		"named",
	Sources: []string{"geometry", calculator.Practice},
}, PinionDepth)

// byTool is the shim by a depth tool: trial + (measured - required) under the
// head-side bearing (sign +1), the other sign at the flange (-1). In metres.
func byTool(trial, measured, required quantity.Length, sign float64) quantity.Length {
	return trial + quantity.Length(sign)*(measured-required)
}

// byMarks is the shim by the marks of old and new pinion: old + (old mark - new
// mark), signs as byTool. In metres.
func byMarks(old, oldMark, newMark quantity.Length, sign float64) quantity.Length {
	return old + quantity.Length(sign)*(oldMark-newMark)
}

// tool reads the depth tool's figures and answers by them.
func (in DepthIn) tool(c *input.Checks, out *DepthOut, sign float64) {
	unit := orUnit(in.Gauge, quantity.Named("mm"))
	nominal := input.Positive(c, "nominal", in.Nominal, largest)
	gauge := input.NotNegative(c, "gauge", in.Gauge, largest)
	trial := input.NotNegative(c, "trial_shim", in.Trial, 20*quantity.Millimetre)
	required, measured := nominal+in.Mark.SI(), gauge+in.Constant.SI()
	if input.Over(math.Abs(float64(measured-required)), float64(10*quantity.Millimetre)) {
		c.Add(
			"gauge", "a reading that with the constant comes near the nominal distance",
			"%s off the required distance: check constant and nominal", quantity.Say(measured-required, unit),
		)
	}
	shim := byTool(trial, measured, required, sign)
	out.Required, out.Measured, out.ByTool = quantity.Say(required, unit), quantity.Say(measured,
		unit), quantity.Say(shim, unit)
	if shim < 0 {
		c.Add("trial_shim", "a trial that leaves a shim above zero",
			"the shim would be %s, which cannot exist: check the readings", out.ByTool)
	}
	if in.GaugeU.IsSaid() && in.GaugeU.DifferenceSI() < 0 {
		c.Add("gauge_uncertainty", "zero or more", "%s is below zero", in.GaugeU)
	} else if in.GaugeU.IsSaid() {
		out.Uncertainty = quantity.SayDifference(quantity.Length(in.GaugeU.DifferenceSI()), unit)
	}
}

// marks reads the marks and the old shim and answers by them.
func (in DepthIn) marks(c *input.Checks, out *DepthOut, sign float64) {
	old := input.NotNegative(c, "old_shim", in.OldShim, 20*quantity.Millimetre)
	unit := orUnit(in.OldShim, orUnit(in.Gauge, quantity.Named("mm")))
	shim := byMarks(old, in.OldMark.SI(), in.Mark.SI(), sign)
	out.ByMarks = quantity.Say(shim, unit)
	if shim < 0 {
		c.Add(
			"old_shim", "marks and a shim that leave one above zero",
			"by the marks the shim would be %s, which cannot exist: check the readings", out.ByMarks,
		)
	}
}

func (in DepthIn) side(c *input.Checks) float64 {
	switch in.ShimSide {
	case HeadSide:
		return 1
	case FlangeSide:
		return -1
	}
	c.Add("shim_side", string(HeadSide)+", "+string(FlangeSide), "%q is not a shim position", in.ShimSide)
	return 0
}

func orUnit(l Length, unit *quantity.Unit) *quantity.Unit {
	if l.IsSaid() {
		return l.Unit
	}
	return unit
}

func depthWords(out *DepthOut) string {
	switch {
	case out.ByTool.IsSaid() && out.ByMarks.IsSaid():
		diff := out.ByTool.SI() - out.ByMarks.SI()
		out.Difference = quantity.SayDifference(diff, out.ByTool.Unit)
		if math.Abs(float64(diff)) > float64(schoolsAgree) {
			return fmt.Sprintf(
				"tool and marks differ by %s: measure again and check the marks belong to this pair",
				short(out.Difference),
			)
		}
		return fmt.Sprintf("tool and marks agree: fit %s", short(out.ByTool))
	case out.ByTool.IsSaid():
		return fmt.Sprintf("fit %s and measure again", short(out.ByTool))
	}
	return fmt.Sprintf("start with %s; marks alone are only a start, the pattern decides", short(out.ByMarks))
}

func short(l Length) string { return fmt.Sprintf("%.*f %s", l.Unit.Decimals, l.Value, l.Unit.Symbol) }
