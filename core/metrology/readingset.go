package metrology

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Instrument is what is known about the tool that read.
type Instrument struct {
	Name          string       `json:"name,omitempty"`
	Resolution    quantity.Any `json:"resolution,omitzero"`
	MPE           quantity.Any `json:"mpe,omitzero"`
	Repeatability quantity.Any `json:"repeatability,omitzero"`
}

// ReadingSetIn asks what a set of readings says. Readings share one dimension.
type ReadingSetIn struct {
	Readings   []quantity.Any  `json:"readings"`
	Instrument *Instrument     `json:"instrument,omitempty"`
	Lower      quantity.Any    `json:"lower,omitzero"`
	Upper      quantity.Any    `json:"upper,omitzero"`
	Confidence float64         `json:"confidence,omitempty"`
	Units      quantity.System `json:"units,omitempty" enum:"metric,inch,both"`
}

// Decider tells what would turn undecided into a decision.
type Decider struct {
	MoreReadings int          `json:"more_readings,omitempty"`
	Resolution   quantity.Any `json:"resolution,omitzero"`
	Says         string       `json:"says"`
}

// ReadingSetOut is the answer, in the unit of the first reading.
type ReadingSetOut struct {
	N           int          `json:"n"`
	Mean        quantity.Any `json:"mean"`
	Range       quantity.Any `json:"range"`
	S           quantity.Any `json:"s,omitzero"`
	UA          quantity.Any `json:"u_a"`
	URes        quantity.Any `json:"u_res"`
	UMPE        quantity.Any `json:"u_mpe"`
	U           quantity.Any `json:"u"`
	DOF         float64      `json:"dof,omitempty"`
	Coverage    float64      `json:"coverage"`
	Confidence  float64      `json:"confidence"`
	Uncertainty quantity.Any `json:"uncertainty,omitzero"`
	RestsOnOne  bool         `json:"rests_on_one_reading,omitempty"`
	Verdict     Verdict      `json:"verdict"`
	Beyond      quantity.Any `json:"beyond,omitzero"` // of the mean past its limit, signed; only when out
	Decider     *Decider     `json:"would_decide,omitempty"`
}

// ByTheMean is the expanded uncertainty in SI units for a judgement that may go by
// the mean: nought where several readings are all alike, NaN where nothing is known.
func (o ReadingSetOut) ByTheMean() float64 {
	switch {
	case o.Uncertainty.IsSaid():
		return o.Uncertainty.DifferenceSI()
	case o.N > 1:
		return 0
	}
	return math.NaN()
}

// Bounds of what one set may hold.
const (
	MaxReadings       = 1000
	DefaultConfidence = 0.95
)

// ReadingSet answers mean, uncertainty and verdict of one set of readings.
// Source: see Evaluate and Judge.
func ReadingSet(in ReadingSetIn) (ReadingSetOut, error) {
	set, err := in.check()
	if err != nil {
		return ReadingSetOut{}, err
	}
	est := Evaluate(set.values, set.errors, set.confidence)
	if est.U == 0 { // readings all alike, by a gauge nobody knows: not known is not nought
		est.Expanded = quantity.Magnitude(math.NaN())
	}
	verdict := Judge(float64(est.Mean), float64(est.Expanded), set.limits)
	diff := func(v quantity.Magnitude) quantity.Any { return quantity.SayDifference(v, set.unit).Any }
	out := ReadingSetOut{
		N: est.N, Mean: quantity.Say(est.Mean, set.unit).Any, Range: diff(est.Range),
		UA: diff(est.UA), URes: diff(est.URes), UMPE: diff(est.UMPE), U: diff(est.U),
		Coverage: est.Coverage, Confidence: set.confidence, RestsOnOne: est.RestsOnOne, Verdict: verdict,
	}
	if est.N > 1 {
		out.S = diff(est.S)
	}
	if !math.IsInf(est.DOF, 1) && est.DOF < 1e6 {
		out.DOF = est.DOF
	}
	if !math.IsNaN(float64(est.Expanded)) {
		out.Uncertainty = diff(est.Expanded)
	}
	if verdict == Out {
		out.Beyond = diff(quantity.Magnitude(Beyond(float64(est.Mean), set.limits)))
	}
	if verdict == Undecided {
		out.Decider = Decide(est, set.limits, set.confidence, set.unit)
	}
	return out, nil
}

// ReadingSetMethod is ReadingSet as the catalogue lists it.
var ReadingSetMethod = calculator.Define(examples, calculator.About{
	Name: "reading-set", Version: 1,
	Purpose: "what a set of readings says: mean, uncertainty and verdict against the limits",
	Formula: "u_A = s/√n, u_res = d/(2√3), u_mpe = MPE/√3, U = t(ν, p)·√Σu²",
	Assumes: "independent readings of one thing, 1 to 1000 of them; one reading rests on the instrument's " +
		"recorded repeatability",
	Sources: []string{calculator.GUM, calculator.ISO14253},
}, ReadingSet)

// Decide says what would settle an undecided estimate.
func Decide[T quantity.Kind](est Estimate[T], l Limits, confidence float64, unit *quantity.Unit) *Decider {
	more, ok := est.MoreReadings(l, confidence)
	switch {
	case ok && est.N == 1:
		return &Decider{MoreReadings: 1, Says: "read once more: a second reading tells how far they spread"}
	case math.IsNaN(float64(est.Expanded)) && est.N > 1:
		return &Decider{Says: "name the gauge: readings all alike do not say how fine it reads"}
	case ok:
		word := "readings"
		if more == 1 {
			word = "reading"
		}
		return &Decider{
			MoreReadings: more,
			Says: fmt.Sprintf("take %d more %s; with the same spread that decides it", more,
				word),
		}
	}
	if step := est.ResolutionNeeded(l); step > 0 && est.URes > 0 {
		fine := quantity.SayDifference(step, unit).Any
		return &Decider{Resolution: fine, Says: fmt.Sprintf("a gauge reading to %.2g %s would decide it", fine.Value,
			unit.Symbol)}
	}
	return &Decider{
		Says: "too close to the limit for this gauge: treat it as on the limit, or measure another way",
	}
}

// checkedSet is a reading set in SI, ready to compute.
type checkedSet struct {
	values     []quantity.Magnitude
	errors     Errors[quantity.Magnitude]
	limits     Limits
	confidence float64
	unit       *quantity.Unit
}

func (in ReadingSetIn) check() (checkedSet, error) {
	var faults input.Fields
	set := checkedSet{confidence: in.Confidence, limits: Open()}
	if len(in.Readings) == 0 || len(in.Readings) > MaxReadings {
		return set, input.At("readings", fmt.Sprintf("1 to %d readings", MaxReadings), "%d readings were given",
			len(in.Readings))
	}
	dim := in.Readings[0].Dimension()
	for i, r := range in.Readings {
		if r.Dimension() != dim {
			faults.Add(input.Index("readings", i), "all readings of one kind", "a %s among readings of %s",
				r.Dimension(), dim)
		}
		set.values = append(set.values, quantity.Magnitude(r.SI()))
	}
	CheckConfidence(&set.confidence, &faults)
	CheckUnits(in.Units, &faults)
	if in.Instrument != nil {
		set.errors = in.Instrument.Errors(dim, &faults)
	}
	set.limits = LimitsFrom(in.Lower, in.Upper, dim, "lower", "upper", &faults)
	set.unit = in.Readings[0].Unit.For(in.Units)
	return set, faults.Err()
}

// CheckConfidence fills the default and refuses what no table serves.
func CheckConfidence(c *float64, faults *input.Fields) {
	if *c == 0 {
		*c = DefaultConfidence
	}
	if *c < 0.5 || *c > 0.999 {
		faults.Add("confidence", "0.5 to 0.999, usually 0.95", "%g is not a usable confidence", *c)
	}
}

// CheckUnits refuses a unit family that does not exist.
func CheckUnits(s quantity.System, faults *input.Fields) {
	if s != "" && s != quantity.Metric && s != quantity.InchFamily {
		faults.Add("units", "metric, inch", "%q is not a unit family", s)
	}
}

// LimitsFrom reads two optional limits of one dimension.
func LimitsFrom(lower, upper quantity.Any, dim quantity.Dimension, lowName, highName string,
	faults *input.Fields) Limits {
	l := Open()
	for _, side := range []struct {
		name string
		said quantity.Any
		into *float64
	}{{lowName, lower, &l.Lower}, {highName, upper, &l.Upper}} {
		if !side.said.IsSaid() {
			continue
		}
		if side.said.Dimension() != dim {
			faults.Add(side.name, string(dim), "%s is a %s, the readings are %s", side.said, side.said.Dimension(), dim)
		}
		*side.into = side.said.SI()
	}
	if l.Lower > l.Upper {
		faults.Add(lowName, "a lower limit that is not above the upper", "%s lies above %s", lower, upper)
	}
	return l
}

// Errors reads the instrument's figures, which must be of the readings' kind.
func (in Instrument) Errors(dim quantity.Dimension, faults *input.Fields) Errors[quantity.Magnitude] {
	read := func(name string, a quantity.Any) quantity.Magnitude {
		switch {
		case !a.IsSaid():
			return 0
		case a.Dimension() != dim:
			faults.Add("instrument."+name, string(dim), "%s is a %s, the readings are %s", a, a.Dimension(), dim)
		case a.Value < 0:
			faults.Add("instrument."+name, "zero or more", "%s is negative", a)
		}
		return quantity.Magnitude(a.DifferenceSI())
	}
	return Errors[quantity.Magnitude]{
		Resolution:    read("resolution", in.Resolution),
		MPE:           read("mpe", in.MPE),
		Repeatability: read("repeatability", in.Repeatability),
	}
}
