package record

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/fastener"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/say"
)

// A torque that no sheet has. Most groups are then tightened evenly and looked over.
// Where a wheel, a gear or the flywheel hangs on it nobody goes on by feel: size, class
// and finish of the bolt give a figure, called so, and a lead takes it before he signs.

// graveTorques are the groups that are never closed by feel (common practice: these come
// loose on the road, or break what they hold).
var graveTorques = []string{"flywheel", "ring", "caps", "axle", "wheels"}

// isGraveTorque tells of a torque that is not left unknown.
func isGraveTorque(path string) bool {
	room, name, _ := strings.Cut(path, ".")
	return room == "torques" && slices.Contains(graveTorques, name)
}

// sizedTolerance is what a torque by size and class is held to: K scatters by more. Our
// judgement.
const sizedTolerance = 0.1

// bySize works out a torque group from the bolts as they are.
func (p *Attempt) bySize(path string, said *acts.Figure) error {
	if room, _, _ := strings.Cut(path, "."); room != "torques" {
		return input.At("origin", "an origin of this figure", "only a torque goes by size and class")
	}
	b := said.Sized
	if b == nil {
		return input.At("sized", "bolts, diameter, class, finish", "missing")
	}
	if b.Bolts < 1 || b.Bolts > 60 {
		return input.At("sized.bolts", "1 to 60", "%d bolts", b.Bolts)
	}
	in := fastener.BoltIn{Diameter: b.Diameter, Pitch: b.Pitch, Class: b.Class, Lubrication: b.Finish}
	out, err := fastener.BoltTorque(in)
	if err != nil {
		return input.Below("sized", err)
	}
	torque := quantity.Say(quantity.Torque(roundTorque(float64(out.Torque.SI()))), quantity.Named("N·m"))
	called := p.State.Plan.figureNamed(path, p.Step).Title
	said.Figure, err = json.Marshal(
		book.TorqueGroup{Name: called, Bolts: b.Bolts, Torque: torque, Tolerance: sizedTolerance},
	)
	if err != nil {
		return err
	}
	if p.Result, err = fastener.BoltTorqueMethod.Write(out); err != nil {
		return err
	}
	p.Method = fastener.BoltTorqueMethod.Method()
	return p.figureFits(path, said.Figure)
}

// roundTorque is a torque as a wrench is set: to whole newton metres, small ones to halves.
func roundTorque(nm float64) float64 {
	if nm < 10 {
		return float64(int(nm*2+0.5)) / 2
	}
	return float64(int(nm + 0.5))
}

// sizedWords say a torque by size and class, and by what.
func sizedWords(said *acts.Figure) string {
	finish := strings.ReplaceAll(said.Sized.Finish, "_", " ")
	return fmt.Sprintf("%s, %s (M%s, class %s, %s)", book.FigureWords(said.Figure), said.Origin.Words(),
		input.Plain(said.Sized.Diameter.Value), said.Sized.Class, finish)
}

// NotHere tells that a torque group is not on this vehicle, and who said so.
func NotHere(s *State, group string) (by string) {
	for i, e := range s.Entries {
		if said, is := e.ReadAct().(*acts.Figure); is && s.Superseded[i] == 0 && said.Origin == acts.NotHere &&
			e.Item.Name == "torques."+group {
			by = e.By.Name
		}
	}
	return by
}

// UsualFigure answers what a step asks of the sheet as somebody would who does
// not know it.
func UsualFigure(f FigureView) Draft {
	d := Draft{Item: ReadPlace(f.Path), Says: &acts.Figure{Origin: acts.NotKnown}}
	if f.Grave {
		d.Says = &acts.Figure{
			Origin: acts.BySize,
			Sized: &acts.Sized{Bolts: 4, Diameter: quantity.Say(10*quantity.Millimetre,
				quantity.Named("mm")), Class: "8.8", Finish: "as_received"},
		}
	}
	return d
}

// unknownWords say that nobody knows a figure, and what comes of it.
func unknownWords(title, path string, said *acts.Figure) string {
	switch {
	case said.Origin == acts.NotHere:
		return say.Of(title, "not on this vehicle")
	case isJudged(path):
		return title + ": not known, no verdict"
	}
	return title + ": not known"
}
