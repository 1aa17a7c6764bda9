// Package decision weighs the ways a unit can go: repair, rebuild here,
// exchange, send out, replace. It draws each many times from its ranges and
// compares what they cost and when they are done.
package decision

import (
	"fmt"
	"math"
	"math/rand/v2"
	"sort"

	"gonum.org/v1/gonum/stat"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Range is least, likeliest and most; without a likeliest every value in it is
// as likely as any other.
type Range struct {
	Low    quantity.Number  `json:"low"`
	Likely *quantity.Number `json:"likely,omitempty"`
	High   quantity.Number  `json:"high"`
}

// Chance is a Range of shares: 0.05, typed "5 %".
type Chance struct {
	Low    quantity.Share  `json:"low"`
	Likely *quantity.Share `json:"likely,omitempty"`
	High   quantity.Share  `json:"high"`
}

// Range is the chance as any range.
func (c Chance) Range() Range {
	return Range{quantity.Number(c.Low), (*quantity.Number)(c.Likely), quantity.Number(c.High)}
}

// Option is one way to go. Money in any one currency, time in days and hours.
type Option struct {
	ID       string  `json:"id"`
	Says     string  `json:"says"`
	Parts    Range   `json:"parts"`
	Hours    Range   `json:"labour_hours"`
	Waiting  Range   `json:"waiting_days"`
	Fail     Chance  `json:"failure_chance"` // of having to do it again within the warranty
	FailCost Range   `json:"failure_cost"`
	Warranty float64 `json:"warranty_months,omitempty"`
	Fluids   Range   `json:"fluids,omitzero"`  // oil, grease, sealant, beside the parts
	Outside  Range   `json:"outside,omitzero"` // work that is sent out
}

// In asks which way to go.
type In struct {
	Options  []Option  `json:"options"`
	Rate     float64   `json:"hourly_rate"`
	PerDay   *float64  `json:"hours_per_day,omitempty"` // worked on the unit, default 6
	Ahead    float64   `json:"hours_ahead,omitempty"`   // of work promised before in the same hands, for sure
	AheadOf  []Range   `json:"ahead,omitempty"`         // and by piece, each with its range
	Calendar *Calendar `json:"calendar,omitempty"`      // days of work; without it every day is one
	DayCost  float64   `json:"cost_per_day,omitempty"`  // of the vehicle standing
	Deadline float64   `json:"deadline_days,omitempty"` // promised; tells the chance to keep it
	Draws    *int      `json:"draws,omitempty"`         // default 20000
	Seed     uint64    `json:"seed,omitempty"`
}

// Weighed is an option with what the draws say.
type Weighed struct {
	ID        string   `json:"id"`
	Says      string   `json:"says"`
	Mean      float64  `json:"cost_mean"`
	P10       float64  `json:"cost_p10"`
	P50       float64  `json:"cost_p50"`
	P90       float64  `json:"cost_p90"`
	Days      float64  `json:"days_p50"`
	DaysP80   float64  `json:"days_p80"` // the date to promise
	OnTime    *float64 `json:"chance_on_time,omitempty"`
	BestShare float64  `json:"cheapest_share"` // of the draws
	Hinges    string   `json:"hinges_on"`      // the input its cost follows most
	Error     float64  `json:"mean_error"`     // standard, of the mean, from the draws
}

// Out is the answer, cheapest on average first.
type Out struct {
	Options []Weighed `json:"options"`
	Choice  string    `json:"choice"`
	Says    string    `json:"says"`
}

const (
	usualDraws  = 20000
	mostDraws   = 100000
	hoursPerDay = 6
	mostOptions = 12
	mostAhead   = 200
)

// Decide draws from triangular (or even) ranges, seeded: cost = parts + fluids +
// outside work + hours x rate + standing days + a failure, if one falls due; days = waiting + hours
// over hours per day, where the work promised before is done while one waits.
// With a calendar waiting passes on every day and work on days of work alone.
// Promise the day that holds in 80 % of the draws.
// Source: Monte Carlo; triangular distributions as usual for expert ranges.
func Decide(in In) (Out, error) {
	draws, perDay, days, err := in.check()
	if err != nil {
		return Out{}, err
	}
	rng := rand.New(rand.NewPCG(in.Seed, 80))
	ahead := in.ahead(draws)
	costs, done := make([][]float64, len(in.Options)), make([][]float64, len(in.Options))
	out := Out{}
	for i, o := range in.Options {
		var inputs [len(inputNames)][]float64
		for n := range draws {
			x := [len(inputNames)]float64{
				o.Parts.draw(rng),
				o.Hours.draw(rng),
				o.Waiting.draw(rng),
				o.Fail.Range().draw(rng),
				o.FailCost.draw(rng),
			}
			d := days.after(max(x[2], days.after(0, ahead[n]/perDay)), x[1]/perDay)
			cost := x[0] + x[1]*in.Rate + d*in.DayCost
			if rng.Float64() < x[3] {
				cost += x[4]
			}
			for k, r := range [2]Range{o.Fluids, o.Outside} {
				if r != (Range{}) { // nothing is drawn for what is not there: the rest stays as it was
					x[5+k] = r.draw(rng)
					cost += x[5+k]
				}
			}
			costs[i], done[i] = append(costs[i], cost), append(done[i], d)
			for k, v := range x {
				inputs[k] = append(inputs[k], v)
			}
		}
		out.Options = append(out.Options, in.weigh(o, costs[i], done[i], inputs))
	}
	share(out.Options, costs)
	sort.SliceStable(out.Options, func(a, b int) bool { return out.Options[a].Mean < out.Options[b].Mean })
	best := out.Options[0]
	out.Choice = best.ID
	out.Says = fmt.Sprintf("%s: cheapest in %.0f %% of cases; promise %s", best.Says, 100*best.BestShare,
		daysWord(math.Ceil(best.DaysP80)))
	if best.BestShare < 0.6 && len(out.Options) > 1 {
		out.Says += fmt.Sprintf("; it is close and depends on %s", best.Hinges)
	}
	return out, nil
}

// DecideMethod is Decide as the catalogue lists it.
var DecideMethod = calculator.Define(examples, calculator.About{
	Name: "decide", Version: 1,
	Purpose: "which way to go: repair, rebuild here, exchange, send out or replace; what it costs, and the " +
		"day to promise",
	Formula: "cost = parts + fluids + outside work + hours·rate + standing days + a failure if one falls " +
		"due; days = max(waiting, hours ahead/hours per day) + hours/hours per day; drawn 20 000 times from " +
		"triangular or even ranges, seeded",
	Assumes: "inputs independent of one another; work promised before is done while one waits; the day that " +
		"holds in 80 % of the draws is promised",
	Sources: []string{"Monte Carlo", calculator.Practice},
}, Decide)

// ahead is the work promised before, in hours, for each draw. Each piece has its
// own chance, so that one more never makes a draw shorter.
func (in In) ahead(draws int) []float64 {
	sum := make([]float64, draws)
	for n := range sum {
		sum[n] = in.Ahead
	}
	for i, r := range in.AheadOf {
		rng := rand.New(rand.NewPCG(in.Seed, 81+uint64(i)))
		for n := range sum {
			sum[n] += r.draw(rng)
		}
	}
	return sum
}

// draw by the inverse of the distribution.
func (r Range) draw(rng *rand.Rand) float64 {
	u, low, high := rng.Float64(), float64(r.Low), float64(r.High)
	if r.Likely == nil || high == low {
		return low + u*(high-low)
	}
	cut := (float64(*r.Likely) - low) / (high - low)
	if u < cut {
		return low + math.Sqrt(u*cut)*(high-low)
	}
	return high - math.Sqrt((1-u)*(1-cut))*(high-low)
}

// Times is the range of a share or a multiple.
func (r Range) Times(f float64) Range {
	by := quantity.Number(f)
	out := Range{Low: r.Low * by, High: r.High * by}
	if r.Likely != nil {
		likely := *r.Likely * by
		out.Likely = &likely
	}
	return out
}

var inputNames = [7]string{
	"the parts", "the hours", "the waiting", "the risk of failure", "the cost of a failure", "the fluids",
	"the work sent out",
}

func (in In) weigh(o Option, costs, days []float64, inputs [len(inputNames)][]float64) Weighed {
	mean, dev := stat.MeanStdDev(costs, nil)
	w := Weighed{ID: o.ID, Says: o.Says, Mean: mean, Error: dev / math.Sqrt(float64(len(costs)))}
	strongest := -1.0
	for k, r := range [len(inputNames)]Range{o.Parts, o.Hours, o.Waiting, o.Fail.Range(), o.FailCost, o.Fluids, o.Outside} {
		if r.High == r.Low || dev == 0 {
			continue // what does not vary, nothing hangs on
		}
		if follows := math.Abs(stat.Correlation(inputs[k], costs, nil)); follows > strongest {
			strongest, w.Hinges = follows, inputNames[k]
		}
	}
	sorted := func(v []float64) []float64 {
		s := append([]float64(nil), v...)
		sort.Float64s(s)
		return s
	}
	c, d := sorted(costs), sorted(days)
	at := func(p float64, s []float64) float64 { return stat.Quantile(p, stat.Empirical, s, nil) }
	w.P10, w.P50, w.P90, w.Days, w.DaysP80 = at(0.1, c), at(0.5, c), at(0.9, c), at(0.5, d), at(0.8, d)
	if in.Deadline > 0 {
		kept := float64(sort.SearchFloat64s(d, in.Deadline+1e-12)) / float64(len(d))
		w.OnTime = &kept
	}
	return w
}

// share counts in how many draws each option is the cheapest.
func share(options []Weighed, costs [][]float64) {
	for n := range costs[0] {
		best := 0
		for i := range costs {
			if costs[i][n] < costs[best][n] {
				best = i
			}
		}
		options[best].BestShare += 1 / float64(len(costs[0]))
	}
}

func (in In) check() (draws int, perDay float64, days *workDays, err error) {
	var c input.Checks
	if len(in.Options) < 1 || len(in.Options) > mostOptions {
		c.Add("options", fmt.Sprintf("1 to %d options", mostOptions), "%d options", len(in.Options))
	}
	for i, o := range in.Options {
		at := input.Index("options", i)
		for _, r := range []struct {
			name  string
			r     Range
			limit float64
		}{
			{"parts", o.Parts, 1e9}, {"labour_hours", o.Hours, 1e5}, {"waiting_days", o.Waiting, 1e4},
			{"failure_chance", o.Fail.Range(), 1}, {"failure_cost", o.FailCost, 1e9}, {"fluids", o.Fluids, 1e9},
			{"outside", o.Outside, 1e9},
		} {
			r.r.check(&c, input.Join(at, r.name), r.limit)
		}
	}
	input.Number(&c, "hourly_rate", in.Rate, 0, 1e6)
	input.Number(&c, "hours_ahead", in.Ahead, 0, 1e5)
	input.Number(&c, "cost_per_day", in.DayCost, 0, 1e9)
	input.Number(&c, "deadline_days", in.Deadline, 0, 1e4)
	perDay = input.Number(&c, "hours_per_day", input.OrNumber(in.PerDay, hoursPerDay), 0.1, 24)
	draws = int(input.Number(&c, "draws", orDraws(in.Draws), 100, mostDraws))
	if len(in.AheadOf) > mostAhead {
		c.Add("ahead", fmt.Sprintf("up to %d", mostAhead), "%d pieces of work", len(in.AheadOf))
	}
	for i, r := range in.AheadOf[:min(len(in.AheadOf), mostAhead)] {
		r.check(&c, input.Index("ahead", i), 1e5)
	}
	days = in.Calendar.read(&c)
	return draws, perDay, days, c.Err()
}

func (r Range) check(c *input.Checks, at string, limit float64) {
	input.Number(c, at+".low", float64(r.Low), 0, limit)
	input.Number(c, at+".high", float64(r.High), 0, limit)
	if r.Low > r.High {
		c.Add(at+".low", "not above high", "%g lies above %g", r.Low, r.High)
	}
	if r.Likely != nil && !(*r.Likely >= r.Low && *r.Likely <= r.High) {
		c.Add(at+".likely", "between low and high", "%g is not possible", *r.Likely)
	}
}

func orDraws(n *int) float64 {
	if n == nil {
		return usualDraws
	}
	return float64(*n)
}

func daysWord(n float64) string {
	if n == 1 {
		return "1 day"
	}
	return fmt.Sprintf("%.0f days", n)
}
