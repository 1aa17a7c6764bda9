package driveline

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Length is a said one.
type Length = quantity.Said[quantity.Length]

// TyresIn are the four tyres as one turn of each rolls out on the ground, loaded.
type TyresIn struct {
	FrontLeft  Length   `json:"front_left"`             // one turn
	FrontRight Length   `json:"front_right"`            // one turn
	RearLeft   Length   `json:"rear_left"`              // one turn
	RearRight  Length   `json:"rear_right"`             // one turn
	Most       *float64 `json:"most_percent,omitempty"` // they may differ by, default 1
}

// TyresOut is the answer.
type TyresOut struct {
	Axles   float64           `json:"front_to_rear_percent"` // above zero: the front rolls farther
	Widest  float64           `json:"widest_percent"`        // the largest over the smallest of all four
	Verdict metrology.Verdict `json:"verdict"`
	Says    string            `json:"says"`
}

// usualMost is how far tyres may differ where no sheet says: 1 %. Common practice.
const usualMost = 1.0

// Tyres compares what four tyres roll out in one turn, in per cent: a viscous coupling
// or a locked centre works against whatever they differ. A turn below a metre or above
// six is no tyre of a vehicle.
func Tyres(in TyresIn) (TyresOut, error) {
	var c input.Checks
	var turns []float64
	for _, x := range []struct {
		at string
		q  Length
	}{
		{"front_left", in.FrontLeft}, {"front_right", in.FrontRight}, {"rear_left", in.RearLeft},
		{"rear_right", in.RearRight},
	} {
		turns = append(turns, float64(input.Within(&c, x.at, x.q, quantity.Length(1), quantity.Length(6), true)))
	}
	most := input.Number(&c, "most_percent", input.OrNumber(in.Most, usualMost), 0.05, 10)
	if err := c.Err(); err != nil {
		return TyresOut{}, err
	}
	low, high := turns[0], turns[0]
	for _, t := range turns {
		low, high = math.Min(low, t), math.Max(high, t)
	}
	out := TyresOut{
		Axles:  percent((turns[0] + turns[1]) / (turns[2] + turns[3])),
		Widest: percent(high / low), Verdict: metrology.In,
	}
	out.Says = fmt.Sprintf("all within %s %%: alike", input.Plain(out.Widest))
	if input.Over(out.Widest, most) {
		out.Verdict = metrology.Out
		out.Says = fmt.Sprintf(
			"they differ by %s %%, %s %% is the most: fit four alike, or tell the customer in writing",
			input.Plain(out.Widest),
			input.Plain(most),
		)
	}
	return out, nil
}

// percent is how far a ratio is from one, to hundredths.
func percent(ratio float64) float64 { return math.Round((ratio-1)*1e4) / 100 }

// TyresMethod is Tyres as the catalogue lists it.
var TyresMethod = calculator.Define(examples, calculator.About{
	Name: "tyres", Version: 1,
	Purpose: "whether four tyres roll alike: front to rear and the widest apart, in per cent",
	Formula: "front to rear = (fl + fr)/(rl + rr) − 1; widest = largest/smallest − 1",
	Assumes: "each rolled out one turn, loaded, at its pressure",
	Sources: []string{calculator.Practice},
}, Tyres)
