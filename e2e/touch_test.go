package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// What a wheel or a shaft did is put together by touching the drawing; its
// meaning follows at once and nothing is written before it is put on record.
func theLineIsTouched(t *testing.T, p *Program) {
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.rebuildPath("Slipway tractor, Brakka A9") + "/which-turned")
	odo.See("Touch a wheel or shaft in the drawing")
	before := odo.recorded()
	odo.touch("propshaft")
	odo.Press("turned by hand")
	odo.touch("left")
	odo.Press("stays still")
	odo.touch("right")
	odo.Press("stays still")
	odo.See("What if: propshaft turned by hand: left stays still, right stays still")
	odo.wait("the what-if among the observations",
		`() => [...document.querySelectorAll('main tbody tr')].some(r => r.cells[0].innerText === 'if')`)
	assert.Equal(t, before, odo.recorded())
	odo.axe(t, "a line being touched")
	odo.Do("reading", "seen")
	odo.SeeNot("What if:")
	odo.wait(
		"it among the observations",
		`() => [...document.querySelectorAll('main tbody tr')].some(r => r.cells[0].innerText === '2' && r.innerText.includes('propshaft turned by hand'))`,
	)
}
