package gearing

import (
	"fmt"
	"math"
	"strings"

	"handwerk/core/metrology"
)

// say is the move as one would say it across the shop, and what is open.
func (in GateIn) say(out GateOut, turns bool) string {
	said := []string{in.move(out)}
	if out.Smallest.Value < 0 {
		said = append(said, "the lever strikes before the gear is in")
	} else if out.Verdict == metrology.Out {
		said = append(
			said,
			fmt.Sprintf("the smallest gap would be %s, %s are wanted: the gate is worn or bent", short(out.Smallest),
				in.MinGap),
		)
	}
	if !out.Shift.IsSaid() {
		said = append(said, "read the gap in a "+in.otherEnd()+" gear too")
	}
	if out.Turn == nil && out.SpreadBefore.Across.IsSaid() {
		if turns {
			said = append(said, "read the gap across in a gear of the other side too")
		} else {
			said = append(said, "the rod's cross arm is missing, so the turn is open")
		}
	}
	return strings.Join(said, "; ")
}

// move says what the clamp does.
func (in GateIn) move(out GateOut) string {
	var moves []string
	if v := out.Shift.Value; v != 0 && out.Shift.IsSaid() {
		way := "forward"
		if v < 0 {
			way = "back"
		}
		size := out.Shift
		size.Value = math.Abs(v)
		moves = append(moves, fmt.Sprintf("shift the rod %s so that the lever goes %s", short(size), way))
	}
	if out.Turn != nil && *out.Turn != 0 {
		way := "right"
		if *out.Turn < 0 {
			way = "left"
		}
		moves = append(moves, fmt.Sprintf("turn it %.1f degrees so that the lever goes %s", math.Abs(*out.Turn), way))
	}
	if len(moves) == 0 {
		return "leave the clamp as it is: the smallest gap is " + short(out.Smallest)
	}
	return strings.Join(moves, ", ") + ": the smallest gap is then " + short(out.Smallest)
}

func (in GateIn) otherEnd() string {
	if in.Gears[0].End == "front" {
		return "rear"
	}
	return "front"
}

func short(l Length) string { return fmt.Sprintf("%.*f %s", l.Unit.Decimals, l.Value, l.Unit.Symbol) }
