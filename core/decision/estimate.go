package decision

import (
	"math"
	"slices"

	"handwerk/core/quantity"
)

// Estimate is what a way comes to on the customer's bill. The days a vehicle
// stands are its owner's loss, not the shop's work, and stay out of it.
type Estimate struct {
	Way     string         `json:"way"` // id of the option
	Parts   quantity.Money `json:"parts"`
	Fluids  quantity.Money `json:"fluids"`
	Outside quantity.Money `json:"outside"` // work that is sent out
	Hours   float64        `json:"hours"`   // of work
	Rate    quantity.Money `json:"rate"`
	Work    quantity.Money `json:"work"`
	Half    quantity.Money `json:"half"` // of such bills stay below
	Nine    quantity.Money `json:"nine"` // in ten stay below
	Ask     quantity.Money `json:"ask"`  // the sum to ask the customer for
}

// Usual is what was said to be likely, or the middle of the range.
func (r Range) Usual() float64 {
	if r.Likely != nil {
		return float64(*r.Likely)
	}
	return float64(r.Low+r.High) / 2
}

// Estimates are those of the options, as they were weighed.
func Estimates(in In, out Out) (list []Estimate) {
	for _, o := range in.Options {
		i := slices.IndexFunc(out.Options, func(w Weighed) bool { return w.ID == o.ID })
		if i < 0 {
			continue
		}
		w, rate := out.Options[i], quantity.MoneyOf(in.Rate)
		standing := in.DayCost * w.Days
		list = append(list, Estimate{
			Way: o.ID, Parts: quantity.MoneyOf(o.Parts.Usual()), Fluids: quantity.MoneyOf(o.Fluids.Usual()),
			Outside: quantity.MoneyOf(o.Outside.Usual()), Hours: o.Hours.Usual(), Rate: rate,
			Work: rate.Times(o.Hours.Usual()), Half: quantity.MoneyOf(w.P50 - standing),
			Nine: quantity.MoneyOf(w.P90 - standing), Ask: SumToAsk(w.P90 - standing),
		})
	}
	return list
}

// SumToAsk is a sum rounded up to what one says aloud.
func SumToAsk(sum float64) quantity.Money {
	step := 100.0
	switch {
	case sum < 200:
		step = 10
	case sum < 2000:
		step = 50
	}
	return quantity.MoneyOf(math.Ceil(sum/step) * step)
}
