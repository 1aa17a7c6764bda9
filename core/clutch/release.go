package clutch

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// ReleaseIn is the chain from pedal to pressure plate. Backwards: the lift
// that a symptom implies, or the travel lost to air.
type ReleaseIn struct {
	Pedal    Length  `json:"pedal_travel"`
	FreePlay Length  `json:"free_play"`
	PedalX   float64 `json:"pedal_ratio"`          // pedal over push rod
	Master   Length  `json:"master_bore,omitzero"` // hydraulics; both or neither
	Slave    Length  `json:"slave_bore,omitzero"`  //
	// A ratio that is missing ends the answer where it is needed.
	Fork      *float64 `json:"fork_ratio,omitempty"`      // outer arm over inner
	Diaphragm *float64 `json:"diaphragm_ratio,omitempty"` // bearing travel over lift
	Faces     int      `json:"faces"`                     // 2 per disc
	Required  Length   `json:"required_per_face"`         // clearance wanted at each face
	Most      Length   `json:"most_per_face,omitzero"`    // beyond it the diaphragm is overstroked
	Seen      Length   `json:"slave_travel,omitzero"`     // measured at the slave: tells lost fluid
}

// ReleaseOut is the answer.
type ReleaseOut struct {
	PushRod     Length            `json:"push_rod"`
	SlaveTravel Length            `json:"slave_travel"`
	Bearing     Length            `json:"bearing_travel,omitzero"`
	Lift        Length            `json:"lift,omitzero"`
	PerFace     Length            `json:"per_face,omitzero"`
	PedalNeeded Length            `json:"pedal_needed,omitzero"`
	LostFluid   string            `json:"lost_fluid,omitempty"`
	Verdict     metrology.Verdict `json:"verdict"`
	Says        string            `json:"says"`
}

// chain is a release from pedal to plate: metres, and pure ratios.
type chain struct {
	pedalX, forkX, diaphragmX float64 // levers
	gain                      float64 // slave travel over push rod travel: (Dm/Ds)², 1 for a cable
	faces                     float64
}

// rod is the push rod's travel: (pedal - free play)/pedal ratio.
func (c chain) rod(pedal, free float64) float64 { return (pedal - free) / c.pedalX }

// perFace is what a slave's travel gives each friction face: over fork and
// diaphragm ratio, shared by the faces.
func (c chain) perFace(slave float64) float64 { return slave / c.forkX / c.diaphragmX / c.faces }

// slaveFor is the slave's travel that a lift of each face needs.
func (c chain) slaveFor(perFace float64) float64 { return perFace * c.faces * c.diaphragmX * c.forkX }

// pedalFor is the pedal's travel behind the free play that a slave's travel needs.
func (c chain) pedalFor(slave float64) float64 { return slave / c.gain * c.pedalX }

// Release follows the travel: (pedal - free play)/pedal ratio, times
// (Dm/Ds)² in hydraulics, over fork and diaphragm ratio, shared by the faces.
// Source: lever law and the incompressible fluid.
func Release(in ReleaseIn) (ReleaseOut, error) {
	var c input.Checks
	levers, area := in.levers(&c)
	pedal := float64(input.Positive(&c, "pedal_travel", in.Pedal, 500*quantity.Millimetre))
	free := float64(input.NotNegative(&c, "free_play", in.FreePlay, 500*quantity.Millimetre))
	want := float64(input.Positive(&c, "required_per_face", in.Required, 10*quantity.Millimetre))
	if in.Most.IsSaid() && input.Under(float64(input.Positive(&c, "most_per_face", in.Most, 10*quantity.Millimetre)),
		want) {
		c.Add("most_per_face", "not below the lift a face needs", "%s is less than the %s that is wanted", in.Most,
			in.Required)
	}
	if !input.Under(free, pedal) {
		c.Add("free_play", "less than the pedal's travel", "%s of %s", in.FreePlay, in.Pedal)
	}
	if err := c.Err(); err != nil {
		return ReleaseOut{}, err
	}
	say := func(v float64) Length { return quantity.SayDifference(quantity.Length(v), in.Pedal.Unit) }
	rod := levers.rod(pedal, free)
	sent := rod * levers.gain
	if err := in.seenCanBe(say(sent)); err != nil {
		return ReleaseOut{}, err
	}
	out := ReleaseOut{PushRod: say(rod), SlaveTravel: say(sent)}
	slave := sent
	if in.Seen.IsSaid() {
		slave = in.Seen.DifferenceSI()
		out.LostFluid = lostFluid(sent, slave, area)
	}
	if in.Fork != nil {
		out.Bearing = say(slave / levers.forkX)
	}
	if in.Fork == nil || in.Diaphragm == nil {
		out.Says = in.halfway(out, say(slave))
		return out, nil
	}
	needed := free + levers.pedalFor(levers.slaveFor(want))
	if in.Seen.IsSaid() && slave > 0 { // backwards: with what is lost, this much pedal would be needed
		needed += math.Max(0, levers.pedalFor(sent-slave))
	}
	out.PedalNeeded = say(needed)
	out.Lift, out.PerFace = say(levers.perFace(slave)*levers.faces), say(levers.perFace(slave))
	in.judge(&out, input.Under(levers.perFace(slave), want), levers.slaveFor(want))
	if in.Most.IsSaid() && input.Over(levers.perFace(slave), in.Most.DifferenceSI()) {
		out.Verdict = metrology.Out
		out.Says = fmt.Sprintf(
			"overstroked: it lifts %s at each face, %s at most; limit the pedal's travel, or diaphragm and bearing suffer",
			short(out.PerFace),
			short(in.Most),
		)
	}
	return out, nil
}

// lostFluid says what does not arrive at the slave, in millilitres; travels in
// metres, area in m² and 0 for a cable.
func lostFluid(sent, slave, area float64) string {
	lost := sent - slave
	if area == 0 || lost <= 0.05*sent {
		return ""
	}
	return fmt.Sprintf("%.1f mL is lost: air in the line, a swelling hose, or a cylinder leaking past its seal",
		lost*area*1e6)
}

// halfway says how far the travel is followed while a ratio is missing.
func (in ReleaseIn) halfway(out ReleaseOut, slave Length) string {
	if in.Fork != nil {
		return fmt.Sprintf("the slave moves %s, the bearing %s; the finger ratio is missing, so the lift is open",
			short(slave), short(out.Bearing))
	}
	missing := "the fork ratio is"
	if in.Diaphragm == nil {
		missing = "fork and finger ratio are"
	}
	return fmt.Sprintf("the slave moves %s; %s missing, so the lift is open", short(slave), missing)
}

// ReleaseMethod is Release as the catalogue lists it.
var ReleaseMethod = calculator.Define(examples, calculator.About{
	Name:    "clutch-release",
	Version: 3,
	Purpose: "whether the pedal lifts the plate far enough, and what is lost on the way",
	Formula: "(pedal − free play)/pedal ratio·(Dm/Ds)²/fork/diaphragm/faces",
	Assumes: "rigid levers, fluid without air; a measured slave travel tells the fluid that is lost; without fork or finger ratio the slave's travel is the answer",
	Sources: []string{"lever law, incompressible fluid"},
}, Release)

// levers reads the ratios and bores; area is the slave's bore in m², 0 for a cable.
func (in ReleaseIn) levers(c *input.Checks) (levers chain, area float64) {
	levers = chain{
		pedalX:     input.Number(c, "pedal_ratio", in.PedalX, 0.5, 20),
		forkX:      input.Number(c, "fork_ratio", input.OrNumber(in.Fork, 1), 0.3, 10),
		diaphragmX: input.Number(c, "diaphragm_ratio", input.OrNumber(in.Diaphragm, 1), 0.5, 20),
		gain:       1, faces: float64(in.Faces),
	}
	if in.Faces < 1 || in.Faces > 40 {
		c.Add("faces", "1 to 40; two per disc", "%d faces", in.Faces)
	}
	if in.Master.IsSaid() != in.Slave.IsSaid() {
		c.Add("slave_bore", "both bores, or neither for a cable", "one bore is missing")
	} else if in.Master.IsSaid() {
		m := float64(input.Within(c, "master_bore", in.Master, 3*quantity.Millimetre, 100*quantity.Millimetre, true))
		s := float64(input.Within(c, "slave_bore", in.Slave, 3*quantity.Millimetre, 100*quantity.Millimetre, true))
		levers.gain, area = m*m/(s*s), math.Pi/4*s*s
	}
	return levers, area
}

// seenCanBe: a slave moves no farther than the pedal sends it; a tenth is for
// what rule and pedal box give.
func (in ReleaseIn) seenCanBe(sent Length) error {
	if !in.Seen.IsSaid() {
		return nil
	}
	var c input.Checks
	if seen := input.NotNegative(&c, "slave_travel", in.Seen, 500*quantity.Millimetre); input.Over(float64(seen),
		1.1*sent.DifferenceSI()) {
		c.Add("slave_travel", "up to "+short(sent)+", which is what the pedal sends",
			"%s is more than the pedal can move it", in.Seen)
	}
	return c.Err()
}

// judge says whether it clears, and where the travel is missing.
func (in ReleaseIn) judge(out *ReleaseOut, drags bool, slaveNeeded float64) {
	out.Verdict, out.Says = metrology.In, "it clears: a clutch that drags now has a warped disc, rusted splines or a tight pilot bearing"
	if !drags {
		return
	}
	out.Verdict = metrology.Out
	needed, there := apart(out.PedalNeeded, in.Pedal)
	out.Says = fmt.Sprintf("it drags: it needs %s of pedal and has %s", needed, there)
	if in.Seen.IsSaid() {
		needed, there = apart(quantity.SayDifference(quantity.Length(slaveNeeded), in.Seen.Unit), in.Seen)
		out.Says = fmt.Sprintf("it drags: the slave moves %s and needs %s", there, needed)
	}
}

func short(l Length) string { return said(l, l.Unit.Decimals) }

func said(l Length, decimals int) string {
	return fmt.Sprintf("%.*f %s", decimals, l.Value, l.Unit.Symbol)
}

// apart says two unequal lengths in one unit with the decimals that tell them
// apart: 33.07 mm are not needed where there are 33.07.
func apart(a, b Length) (string, string) {
	decimals := a.Unit.Decimals
	for decimals < 9 && said(a, decimals) == said(b, decimals) {
		decimals++
	}
	return said(a, decimals), said(b, decimals)
}

// WearIn asks how long a disc lasts.
type WearIn struct {
	Now      Length `json:"now"` // thickness, or depth over the rivets
	New      Length `json:"new"`
	Limit    Length `json:"limit"`
	Distance Length `json:"distance,omitzero"` // run since new
}

// WearOut is the answer.
type WearOut struct {
	Worn    Length            `json:"worn"`
	Left    float64           `json:"share_left"`
	ToGo    Length            `json:"distance_left,omitzero"`
	Verdict metrology.Verdict `json:"verdict"`
	Says    string            `json:"says"`
}

// wear says how much of a lining is left: of what may wear, and of the distance
// it was run since new, at the rate seen. All lengths in metres; distance 0 is
// not known. Linear in distance: common practice.
func wear(now, fresh, limit, distance float64) (left, togo float64) {
	left = math.Max(0, (now-limit)/(fresh-limit))
	if fresh > now {
		togo = math.Max(0, (now-limit)/(fresh-now)*distance)
	}
	return left, togo
}

// DiscWear is linear in distance; town and towing wear faster than that.
// Common practice.
func DiscWear(in WearIn) (WearOut, error) {
	var c input.Checks
	now := float64(input.NotNegative(&c, "now", in.Now, 100*quantity.Millimetre))
	fresh := float64(input.Positive(&c, "new", in.New, 100*quantity.Millimetre))
	limit := float64(input.NotNegative(&c, "limit", in.Limit, 100*quantity.Millimetre))
	if !input.Under(limit, fresh) {
		c.Add("limit", "below the new thickness", "%s against %s new", in.Limit, in.New)
	}
	if input.Over(now, fresh*1.02) {
		c.Add("now", "up to the new thickness", "%s is thicker than new: wrong disc, or a misreading", in.Now)
	}
	if in.Distance.IsSaid() {
		input.Positive(&c, "distance", in.Distance, quantity.Length(1e9))
	}
	if err := c.Err(); err != nil {
		return WearOut{}, err
	}
	left, togo := wear(now, fresh, limit, float64(in.Distance.SI()))
	out := WearOut{Worn: quantity.SayDifference(quantity.Length(fresh-now), in.New.Unit), Left: left,
		Verdict: metrology.In}
	out.Says = fmt.Sprintf("%.0f %% of the lining is left", 100*out.Left)
	if input.Under(now, limit) {
		out.Verdict, out.Says = metrology.Out, "below the limit: replace disc, cover and release bearing together"
	}
	if in.Distance.IsSaid() && fresh > now {
		out.ToGo = quantity.Say(quantity.Length(togo), in.Distance.Unit)
	}
	return out, nil
}

// DiscWearMethod is DiscWear as the catalogue lists it.
var DiscWearMethod = calculator.Define(examples, calculator.About{
	Name: "clutch-wear", Version: 1,
	Purpose: "how much of a disc is left, and for how far",
	Formula: "share = (now − limit)/(new − limit); distance in proportion to the wear so far",
	Assumes: "wear in proportion to distance; town and towing wear faster",
	Sources: []string{calculator.Practice},
}, DiscWear)

// PlayIn asks how far to turn an adjuster.
type PlayIn struct {
	Measured Length  `json:"measured"`
	Min      Length  `json:"wanted_min"`
	Max      Length  `json:"wanted_max"`
	Pitch    Length  `json:"adjuster_pitch,omitzero"` // missing: it adjusts itself
	Ratio    float64 `json:"ratio"`                   // play at the pedal per travel of the adjuster
}

// PlayOut is the answer.
type PlayOut struct {
	Turns   float64           `json:"turns"` // positive: more play
	Flats   float64           `json:"flats"` // sixths of a turn
	Verdict metrology.Verdict `json:"verdict"`
	Says    string            `json:"says"`
}

// adjusterTurns bring a play to the one wanted: (wanted - measured)/(ratio·pitch),
// lengths in metres, ratio of play at the pedal to travel of the adjuster.
// Positive is toward more play. Source: lever law.
func adjusterTurns(wanted, measured, ratio, pitch float64) float64 {
	return (wanted - measured) / (ratio * pitch)
}

// FreePlay turns the adjuster so that the middle of the wanted range is met:
// turns = (wanted - measured)/(ratio·pitch). 20 to 25 mm at the pedal is
// common practice, on some old cars never above 19 mm.
func FreePlay(in PlayIn) (PlayOut, error) {
	var c input.Checks
	measured := float64(input.NotNegative(&c, "measured", in.Measured, 300*quantity.Millimetre))
	low, high := float64(
		input.NotNegative(&c, "wanted_min", in.Min, 300*quantity.Millimetre),
	), float64(input.Positive(&c, "wanted_max", in.Max, 300*quantity.Millimetre))
	pitch := math.NaN()
	if in.Pitch.IsSaid() {
		pitch = float64(input.Within(&c, "adjuster_pitch", in.Pitch, 0.2*quantity.Millimetre, 10*quantity.Millimetre,
			true))
	}
	ratio := input.Number(&c, "ratio", in.Ratio, 0.5, 50)
	if input.Over(low, high) {
		c.Add("wanted_min", "not above the most wanted", "%s lies above %s", in.Min, in.Max)
	}
	if err := c.Err(); err != nil {
		return PlayOut{}, err
	}
	if !in.Pitch.IsSaid() {
		return in.selfAdjusting(measured, low, high), nil
	}
	turns := adjusterTurns((low+high)/2, measured, ratio, pitch)
	out := PlayOut{
		turns, turns * 6, metrology.Out,
		fmt.Sprintf("turn the adjuster %.1f flats toward more play, lock it, pump, measure again", turns*6),
	}
	switch {
	case !input.Under(measured, low) && !input.Over(measured, high):
		out = PlayOut{0, 0, metrology.In, "in: lock the nut and leave it"}
	case turns < 0:
		out.Says = fmt.Sprintf("turn the adjuster %.1f flats toward less play, lock it, pump, measure again", -turns*6)
	}
	return out, nil
}

// selfAdjusting judges the play of a release that has no adjuster: what is off is mended
// at its cause.
func (in PlayIn) selfAdjusting(measured, low, high float64) PlayOut {
	switch {
	case input.Under(measured, low):
		return PlayOut{
			0,
			0,
			metrology.Out,
			"too little: it adjusts itself, so look at the compensating port and the push rod",
		}
	case input.Over(measured, high):
		return PlayOut{
			0,
			0,
			metrology.Out,
			"too much: it adjusts itself, so look for air, a worn fork or a slipped pawl",
		}
	}
	return PlayOut{0, 0, metrology.In, "in: it adjusts itself, leave it"}
}

// FreePlayMethod is FreePlay as the catalogue lists it.
var FreePlayMethod = calculator.Define(examples, calculator.About{
	Name: "free-play", Version: 1,
	Purpose: "how many flats of the adjuster bring pedal or cable to its free play",
	Formula: "turns = (middle of wanted − measured)/(ratio·pitch)",
	Assumes: "new bushes first; measured at the pedal",
	Sources: []string{"20 to 25 mm at the pedal: " + calculator.Practice},
}, FreePlay)
