package simulator

import (
	"bufio"
	"context"
	"net"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
)

// The same stand-in does the same again, in lines that are readings; another seed hides
// another truth.
func TestAStandInIsItsSeed(t *testing.T) {
	t.Parallel()
	for _, k := range Kinds() {
		a, b, other := k.New(7), k.New(7), k.New(8)
		differs := false
		for n := range 500 {
			assert.Equal(t, a.Line(n), b.Line(n), k.Name)
			differs = differs || a.Line(n) != other.Line(n)
			line := metrology.ReadGaugeLine(a.Line(n), nil)
			assert.Equal(t, metrology.Reading, line.Kind, "%s: %s", k.Name, a.Line(n))
		}
		assert.True(t, differs, k.Name)
	}
}

// The dial sees its bore where it stands, now and then with a slip, and the arm's sag at 6.
func TestTheDialGoesRoundItsBore(t *testing.T) {
	t.Parallel()
	d := newDial(3)
	atRest := func(turn int, part float64) float64 { return d.reads(0, turn, part) }
	slips := 0
	for turn := range 200 {
		if back := atRest(turn, 0.9999) - atRest(turn, 0); back > 0.1 {
			slips++
			continue
		}
		assert.InDelta(t, 2*d.up+d.sag, atRest(turn, 0.5)-atRest(turn, 0), 0.012)
		assert.InDelta(t, 2*d.right, atRest(turn, 0.75)-atRest(turn, 0.25), 0.012)
	}
	assert.InDelta(t, 200.0/slipOneIn, slips, 20)
}

// Whoever calls hears it from its beginning, until it ends.
func TestItSpeaksToWhoeverCalls(t *testing.T) {
	t.Parallel()
	ctx, end := context.WithCancel(context.Background())
	at, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ended := make(chan error, 1)
	k := Kinds()[0]
	go func() { ended <- Serve(ctx, at, k, 5) }()
	for range 2 {
		conn, err := net.Dial("tcp", at.Addr().String())
		require.NoError(t, err)
		lines := bufio.NewReader(conn)
		for n := range 3 {
			line, err := lines.ReadString('\n')
			require.NoError(t, err)
			assert.Equal(t, k.New(5).Line(n)+"\r\n", line)
		}
		require.NoError(t, conn.Close())
	}
	end()
	assert.NoError(t, <-ended)
}
