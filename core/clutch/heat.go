package clutch

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// Mass, Rotation, Temperature, Time are said quantities.
type (
	Mass        = quantity.Said[quantity.Mass]
	Rotation    = quantity.Said[quantity.Rotation]
	Temperature = quantity.Said[quantity.Temperature]
	Time        = quantity.Said[quantity.Time]
)

// HeatIn asks how warm a plate gets when a vehicle is started on a hill, once or again
// and again. The engine's speed is held and the torque through the slipping clutch is
// constant; wheels and shafts count with the mass.
type HeatIn struct {
	Mass     Mass        `json:"mass"`                      // of the vehicle, laden
	Gradient float64     `json:"gradient_percent"`          // 100·tan α
	Rolling  float64     `json:"rolling_percent,omitempty"` // of the weight
	Ratio    float64     `json:"ratio"`                     // engine over wheel
	Radius   Length      `json:"rolling_radius"`            // of a loaded wheel
	Speed    Rotation    `json:"engine_speed"`              // held throughout
	Torque   Torque      `json:"engine_torque"`
	Plate    Mass        `json:"plate_mass"`                     // of what takes up the heat
	Share    *float64    `json:"share_to_plate,omitempty"`       // of the heat, default 0.5
	Specific *float64    `json:"specific_heat_j_kg_k,omitempty"` // default 460, grey cast iron
	Starts   int         `json:"starts,omitempty"`               // default 1
	Pause    Time        `json:"pause,omitzero"`                 // from the end of a slip to the next start
	Cooling  Time        `json:"cooling_time,omitzero"`          // to 1/e; without it nothing cools
	Start    Temperature `json:"start_temperature,omitzero"`     // default 20 °C
	Room     Temperature `json:"room,omitzero"`                  // default as it starts
	Limit    Temperature `json:"limit,omitzero"`
}

// HeatOut is the answer.
type HeatOut struct {
	Slip    Time              `json:"slip_time"`          // of one start
	Energy  float64           `json:"energy_kj"`          // of one start
	Mean    float64           `json:"mean_power_kw"`      // over the slip
	Peak    float64           `json:"peak_power_kw"`      // when it begins
	Rise    float64           `json:"rise_k"`             // of the plate, by one start
	After   []Temperature     `json:"after_each"`         // at the end of each slip
	Hottest Temperature       `json:"hottest"`            // of them
	InARow  *int              `json:"in_a_row,omitempty"` // within the limit; 1,000 is without end
	Verdict metrology.Verdict `json:"verdict"`
	Says    string            `json:"says"`
}

const (
	gravity      = 9.80665
	plateShare   = 0.5
	castIron     = 460 // J/(kg·K), grey cast iron, handbook, from memory
	longestSlip  = 600
	mostInARow   = 1000
	mostStarts   = 1000
	usualStarts  = 1
	absoluteRoom = 293.15
)

// Heat: with J = m·(r/i)² and T_L = m·g·(sin α + c·cos α)·r/i the clutch slips for
// t = J·ω0/(T − T_L) and takes up W = ½·J·ω0²·T/(T − T_L); the plate warms by its share
// of W over its heat capacity and cools toward the room between starts.
// Source: energy balance as Shigley, ch. 16 (from memory).
func Heat(in HeatIn) (HeatOut, error) {
	var c input.Checks
	s := in.read(&c)
	if err := c.Err(); err != nil {
		return HeatOut{}, err
	}
	if s.torque <= s.load {
		return HeatOut{}, input.At("engine_torque", "more than "+in.Torque.Like(quantity.Torque(s.load)),
			"it will not start: the hill asks for more than the clutch brings")
	}
	slip := s.inertia * s.speed / (s.torque - s.load)
	if input.Over(slip, longestSlip) {
		return HeatOut{}, input.At("engine_torque", "a start of up to 600 s", "it would slip for %.0f s", slip)
	}
	work := s.inertia * s.speed * s.speed / 2 * s.torque / (s.torque - s.load)
	unit := quantity.Named("°C")
	for _, t := range []Temperature{in.Start, in.Limit, in.Room} {
		if t.IsSaid() {
			unit = t.Unit
			break
		}
	}
	out := HeatOut{
		Slip: quantity.Say(quantity.Time(slip), quantity.Named("s")), Energy: work / 1e3, Mean: work / slip / 1e3,
		Peak: s.torque * s.speed / 1e3, Rise: s.share * work / s.capacity, Verdict: metrology.None,
	}
	hottest := s.start
	for _, at := range s.after(out.Rise, s.starts) {
		out.After = append(out.After, quantity.Say(quantity.Temperature(at), unit))
		hottest = math.Max(hottest, at)
	}
	out.Hottest = quantity.Say(quantity.Temperature(hottest), unit)
	out.Says = fmt.Sprintf("one start warms the plate by %.0f K", out.Rise)
	if in.Limit.IsSaid() {
		in.judge(&out, s, hottest)
	}
	return out, nil
}

// HeatMethod is Heat as the catalogue lists it.
var HeatMethod = calculator.Define(examples, calculator.About{
	Name:    "clutch-heat",
	Version: 1,
	Purpose: "how warm a clutch gets by starts on a hill, and how many in a row it takes",
	Formula: "t = J·ω/(T − T_L); W = ½·J·ω²·T/(T − T_L); rise = share·W/(m·c)",
	Assumes: "engine speed and torque constant while it slips; half of the heat goes into the plate; without a cooling time nothing cools",
	Sources: []string{
		"energy balance as Shigley, ch. 16 (from memory)",
		"specific heat of grey cast iron 460 J/(kg·K), handbook (from memory)",
	},
}, Heat)

// slipping is a start in SI units.
type slipping struct {
	inertia, load, speed, torque float64
	share, capacity              float64
	start, room                  float64 // kelvin
	keeps                        float64 // share of the warmth left after a pause
	starts                       int
}

func (in HeatIn) read(c *input.Checks) slipping {
	mass := float64(input.Positive(c, "mass", in.Mass, quantity.Mass(100e3)))
	gradient := input.Number(c, "gradient_percent", in.Gradient, -50, 100)
	rolling := input.Number(c, "rolling_percent", in.Rolling, 0, 50)
	ratio := input.Number(c, "ratio", in.Ratio, 0.5, 1000)
	radius := float64(input.Positive(c, "rolling_radius", in.Radius, 2000*quantity.Millimetre))
	s := slipping{
		speed:  float64(input.Positive(c, "engine_speed", in.Speed, quantity.Rotation(20000*2*math.Pi/60))),
		torque: float64(input.Within(c, "engine_torque", in.Torque, 0, 20000, false)),
		share:  input.Number(c, "share_to_plate", input.OrNumber(in.Share, plateShare), 0, 1),
		starts: max(in.Starts, usualStarts), start: absoluteRoom, keeps: 1,
	}
	if in.Starts < 0 || in.Starts > mostStarts {
		c.Add("starts", "1 to 1000", "%d starts", in.Starts)
	}
	plate := float64(input.Positive(c, "plate_mass", in.Plate, quantity.Mass(1000)))
	s.capacity = plate * input.Number(c, "specific_heat_j_kg_k", input.OrNumber(in.Specific, castIron), 50, 5000)
	angle := math.Atan(gradient / 100)
	s.inertia = mass * (radius / ratio) * (radius / ratio)
	s.load = mass * gravity * (math.Sin(angle) + rolling/100*math.Cos(angle)) * radius / ratio
	s.warmth(c, in)
	return s
}

// warmth reads temperatures and how it cools.
func (s *slipping) warmth(c *input.Checks, in HeatIn) {
	temperature := func(path string, t Temperature, usual float64) float64 {
		if !t.IsSaid() {
			return usual
		}
		return float64(input.Within(c, path, t, 173.15, 1273.15, true))
	}
	s.start = temperature("start_temperature", in.Start, absoluteRoom)
	s.room = temperature("room", in.Room, s.start)
	temperature("limit", in.Limit, 0)
	pause := 0.0
	if in.Pause.IsSaid() {
		pause = float64(input.NotNegative(c, "pause", in.Pause, quantity.Time(7*24*3600)))
	}
	if in.Cooling.IsSaid() {
		s.keeps = math.Exp(-pause / float64(input.Positive(c, "cooling_time", in.Cooling, quantity.Time(7*24*3600))))
	}
}

// after are the temperatures at the end of each slip.
func (s slipping) after(rise float64, starts int) []float64 {
	list := make([]float64, 0, starts)
	now := s.start
	for range starts {
		now += rise
		list = append(list, now)
		now = s.room + (now-s.room)*s.keeps
	}
	return list
}

func (in HeatIn) judge(out *HeatOut, s slipping, hottest float64) {
	limit := float64(in.Limit.SI())
	n := 0
	for _, at := range s.after(out.Rise, mostInARow) {
		if input.Over(at, limit) {
			break
		}
		n++
	}
	out.InARow = &n
	out.Verdict = metrology.Judge(hottest, 0, metrology.Limits{Lower: math.Inf(-1), Upper: limit})
	switch n {
	case 0:
		out.Says += fmt.Sprintf(": one is too many for %s", in.Limit)
	case 1:
		out.Says += fmt.Sprintf(": one, then let it cool; two go over %s", in.Limit)
	case mostInARow:
		out.Says += fmt.Sprintf(": it never reaches %s", in.Limit)
	default:
		out.Says += fmt.Sprintf(": %d in a row, and the next goes over %s", n, in.Limit)
	}
}
