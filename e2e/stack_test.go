package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/require"
)

// drag takes what lies at one place of the page to another.
func (p *Person) drag(t *testing.T, from, to proto.Point) {
	t.Helper()
	require.NoError(t, p.Mouse.MoveTo(from))
	require.NoError(t, p.Mouse.Down(proto.InputMouseButtonLeft, 1))
	require.NoError(t, p.Mouse.MoveLinear(to, 6))
	require.NoError(t, p.Mouse.Up(proto.InputMouseButtonLeft, 1))
}

// drawn is the middle of a part in the row.
func (p *Person) drawn(part string) proto.Point {
	box := p.MustEval(`part => {
		const e = [...document.querySelectorAll('svg [role=button]')].find(g => g.getAttribute('aria-label').includes(part));
		e.scrollIntoView({ block: 'center' });
		const b = e.getBoundingClientRect();
		return [b.x + b.width / 2, b.y + b.height / 2];
	}`, part).Arr()
	return proto.Point{X: box[0].Num(), Y: box[1].Num()}
}

// A part nobody drew is typed in one line and lies where it was found; it goes a
// place sooner by a button and is dragged to where it lay; packs fold.
func aPartIsPutWhereItLay(t *testing.T, p *Program) {
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.newRebuildOf("axle-limited-slip") + "/strip")
	odo.Type("Reason to start early", "the lift is needed")
	odo.Do("override", "")
	odo.Do("stands", "strip-ring.ring")
	odo.Do("acknowledge", "disc-springs")
	for range 3 {
		odo.Do("removed", "removed")
	}
	const found = "Found a part not on the list? Type it on one line, name first"
	odo.Type(found, "Spacer nobody drew, faces rear, tray 9, marked two dots, 1.52 mm")
	odo.See("faces rear; tray 9; marked two dots; 1.52 mm, after Right disc springs")
	odo.Recording("the part", odo.Enter)
	odo.numbered("Spacer nobody drew", "4")
	odo.See("found there")
	odo.click("to correct it", `() => document.querySelector('[aria-label="correct Spacer nobody drew"]')`)
	odo.See("Correct: Spacer nobody drew")
	odo.Do("behind", "-1")
	odo.numbered("Spacer nobody drew", "3")
	odo.Recording("the drag", func() { odo.drag(t, odo.drawn("Spacer nobody drew"), odo.drawn("1, Pack cover bolts")) })
	odo.numbered("Spacer nobody drew", "2")
	odo.Press("Fold right pack")
	odo.See("Open right pack")
	odo.axe(t, "a stack with a folded pack")
}

// numbered waits until a part stands in the list under a number.
func (p *Person) numbered(part, n string) {
	p.wait(part+" as number "+n, `(part, n) => [...document.querySelectorAll('main tbody tr')]
		.some(r => r.cells[0].innerText === n && r.cells[1].innerText.startsWith(part))`, part, n)
}

// Two at one stack: what one typed for a part that the other takes off
// meanwhile stays with that part and is shown, and the next part is offered to both.
func twoAtOneStack(t *testing.T, p *Program) {
	odo, ilva := signIn(t, p.Base, "odo"), signIn(t, p.Base, "ilva")
	path := odo.newRebuildOf("transfer-case-wet-pack") + "/strip"
	odo.Go(path)
	odo.Type("Reason to start early", "the lift is needed")
	odo.Do("override", "")
	odo.Do("stands", "transfer-case")
	odo.Do("acknowledge", "disc-springs")
	odo.part("cover")
	odo.Type("Tray", "A1")
	ilva.Go(path)
	ilva.part("cover")
	ilva.Type("Tray", "B7")
	ilva.Do("removed", "removed")
	odo.See("Not recorded: A1")
	odo.part("springs")
	odo.Do("removed", "removed")
	ilva.part("piston")
	ilva.See("2 of 9 off")
}
