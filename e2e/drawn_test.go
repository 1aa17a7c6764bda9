package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// typesAt types a figure at its place in a drawing.
func (p *Person) typesAt(place, text string) {
	p.write(
		p.find(
			"the place of "+place,
			`place => document.querySelector('main input[aria-label="' + place + '"]')`,
			place,
		),
		text,
	)
}

// means waits until the margin says so.
func (p *Person) means(words string) {
	p.wait("it means "+words, `words => `+meaning+`?.innerText.includes(words)`, words)
}

// Every bench that is drawn takes its figures where they stand in the drawing, and says
// at once what they mean.
func TestDrawingsTakeInput(t *testing.T) {
	t.Parallel()
	p := signIn(t, demo(t).Base, "guest")
	for _, c := range []struct{ bench, place, text, means string }{
		{"bellhousing", "3 o'clock", "0 thou", "toward"},
		{"reading-set", "reading 3", "0.16 mm", "apart by 0.06 mm"},
		{"runout", "6 o'clock", "6.0 thou", "The centre is off by"},
		{"gate", "1, along", "4.0 mm", "Smallest gap"},
		{"gear-matrix", "2, synchroniser gap", "0.9 mm", "thrust washer"},
		{"end-float", "pack in place", "0.10 mm", "End float"},
		{"backlash", "place 1", "0.20 mm", "Backlash, mean round the ring"},
		{"clutch-release", "of it free", "100 mm", "Out"},
		{"slip-torque", "pull 3", "110 N", "It gives at"},
		{"clutch-wear", "now", "5.0 mm", "Out"},
		{"free-play", "free play", "22 mm", "In"},
		{"bearing-preload", "it turns at (3)", "2,1 N·m", "Preload"},
		{"pinion-depth", "depth tool reads", "104.92 mm", "1.67 mm"},
		{"clutch-cover", "off cover's face", "0.5 mm", "the cut leaves"},
		{"wet-pack", "end plate in it", "3 mm", "a plate of 3.45 mm"},
		{"end-float", "pack at far end", "0.10 mm", "at the far end"},
		{"gear-choice", "at", "90 km/h", "combinations tried"},
		{"viscosity", "running", "40 °C", "66.0 mm²/s"},
		{"clutch-capacity", "engine gives", "300 N·m", "twin holds"},
		{"wrench-adapter", "adapter, square to bolt", "125 mm", "59.0 lb-ft"},
		{"tap-drill", "pitch", "2 mm", "12"},
		{"heat-fit", "seat", "80 mm", "above the shaft"},
		{"shaft-speed", "joint to joint", "1600 mm", "it whips at"},
		{"torque-plan", "bolts on one circle", "6", "6 bolts, last setting"},
		{"fill", "stays behind", "1 US qt", "fills, together"},
		{"bolt", "tightened with", "40 N·m", "clamps with"},
		{"weakest-link", "engine gives", "300 N·m", "breaks first; it gets"},
		{"clutch-heat", "hill, percent", "30", "in a row"},
		{"propshaft-travel", "and down by", "150 mm", "joint 1 bends"},
		{"plate-stack", "left depth", "9.5 mm", "1.20"},
	} {
		p.Go("/bench/" + c.bench)
		p.typesAt(c.place, c.text)
		p.means(c.means)
		p.wait("the address has it", `() => location.search.includes('in=')`)
	}
	p.Go("/bench/clutch-release")
	p.typesAt("pedal travel", "1,400 mm")
	p.wait("what could be read two ways is refused where it stands",
		`() => document.querySelector('main input[aria-invalid=true]')?.getAttribute('aria-label') === 'pedal travel'`)
}

// A pattern is dabbed on the tooth, by touch and by the arrow keys.
func TestAPatternIsDabbed(t *testing.T) {
	t.Parallel()
	p := signIn(t, demo(t).Base, "guest")
	p.Go("/bench/pattern")
	p.means("The pinion stands much too far out")
	for _, flank := range []string{"drive", "coast"} {
		p.find("a flank", `f => document.querySelector('[data-flank=' + f + ']')`, flank).MustClick()
	}
	p.means("the ring stands right")
	p.find("the drive side", `() => document.querySelector('[data-flank=drive]')`).MustFocus()
	for range 3 {
		p.press(input.ArrowRight)
	}
	p.wait("it bears at the heel", `() => document.querySelector('[data-flank=drive]').getAttribute('aria-valuetext')
		.includes('toward the heel')`)
	p.means("the ring stands")
}

// The proposed assembly is put in by one key; what it gave is typed in its column, and
// so on until it stands.
func TestARingAndPinionIsALoop(t *testing.T) {
	t.Parallel()
	p := signIn(t, demo(t).Base, "guest")
	p.Go("/bench/ring-pinion")
	p.means("Next assembly")
	p.Press("Put it in")
	p.typesAt("assembly 2, depth", "100.00 mm")
	p.typesAt("assembly 2, backlash", "0.20 mm")
	p.typesAt("assembly 2, side play", "-0.08 mm")
	p.means("In")
}
