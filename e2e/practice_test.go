package e2e

import (
	"encoding/json"
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// practiseAct presses what may be done at a practice, and waits until so much was done.
func (p *Person) practiseAct(name string, many int) {
	before := p.MustEval(doneSoFar).Int()
	p.click(name, `name => document.querySelector('main button[name="' + name + '"]:enabled')`, name)
	p.wait(name+" is answered", `n => (`+doneSoFar+`)() >= n`, before+many)
}

// doneSoFar counts what is answered: each says the minutes that it took.
const doneSoFar = `() => [...document.querySelectorAll('[aria-label="What was done"] li')]
	.filter(l => /\d min$/.test(l.innerText.trim())).length`

// lastRead are the figures of the last acts, the latest first.
func (p *Person) lastRead(many int) []string {
	var read []string
	raw := p.MustEval(`n => JSON.stringify([...document.querySelectorAll('[aria-label="What was done"] li .font-mono')]
		.slice(0, n).map(e => e.innerText))`, many).Str()
	_ = json.Unmarshal([]byte(raw), &read)
	return read
}

// advice is what the bench of ring and pinion proposes after some assemblies; nothing
// once it stands.
func (p *Person) advice(t *testing.T, trials []map[string]string) map[string]string {
	t.Helper()
	ask, err := json.Marshal(map[string]any{
		"trials": trials, "required_depth": "100 mm", "depth_tolerance": "0.03 mm", "backlash_min": "0.15 mm",
		"backlash_max": "0.25 mm", "side_play_min": "-0.12 mm", "side_play_max": "-0.04 mm", "direction": "tangential",
		"geometry": map[string]int{"pressure_deg": 20, "spiral_deg": 35, "pitch_deg": 75}, "ring_side": "left",
		"shim_side": "head", "shim_step": "0.02 mm",
	})
	require.NoError(t, err)
	bench := p.tab(t, strings.SplitN(p.MustEval(`() => location.href`).Str(), "/bench", 2)[0]+
		"/bench/ring-pinion?in="+url.QueryEscape(string(ask)))
	bench.means("ring pinion, version")
	var said map[string]string
	require.NoError(t, json.Unmarshal([]byte(bench.MustEval(`() => JSON.stringify(Object.fromEntries(
		[...`+meaning+`.querySelectorAll('dl.text-body > div')].map(d => [d.children[0].innerText, d.children[1].innerText])))`).
		Str()), &said))
	bench.MustClose()
	return said
}

// Who follows the advice of the bench sets a practice axle up in a few assemblies; the
// truth, told at the end, says that it is right.
func TestAPracticeAxleIsSetUpByTheAdvice(t *testing.T) {
	t.Parallel()
	p := signIn(t, demo(t).Base, "runa")
	p.Go(`/bench/practice?in=` + url.QueryEscape(`{"kind":"axle","seed":7,"level":"clean"}`))
	packs := map[string]string{"pinion_shim": "1.50 mm", "left": "2.50 mm", "right": "2.50 mm"}
	var trials []map[string]string
	for len(trials) < 6 {
		p.practiseAct("depth", 1)
		p.practiseAct("slack", 1)
		p.practiseAct("round", 4)
		read, mean := p.lastRead(6), 0.0
		require.Len(t, read, 6)
		for _, said := range read[:4] {
			var mm float64
			_, err := fmt.Sscan(said, &mm)
			require.NoError(t, err, said)
			mean += mm / 4
		}
		trials = append(trials, map[string]string{
			"pinion_shim": packs["pinion_shim"], "left": packs["left"], "right": packs["right"],
			"depth": read[5], "zero_play_packs": read[4], "backlash": fmt.Sprintf("%.3f mm", mean),
		})
		next := p.advice(t, trials)
		if len(next) == 0 {
			break
		}
		packs = map[string]string{
			"pinion_shim": next["pinion shim"],
			"left":        next["left pack"],
			"right":       next["right pack"],
		}
		p.Type("Pinion shim", packs["pinion_shim"])
		p.Type("Left pack", packs["left"])
		p.Type("Right pack", packs["right"])
		p.practiseAct("assemble", 1)
	}
	assert.LessOrEqual(t, len(trials), 4, "assemblies: %v", trials)
	p.Press("Tell me the truth")
	p.See("It is right")
	p.Go("/practice")
	p.See("1 of 1 ended right")
}
