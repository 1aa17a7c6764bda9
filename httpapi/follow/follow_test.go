package follow

import (
	"bytes"
	"fmt"
	"io"
	"net"
	"net/netip"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// adapter is a serial-to-network adapter whose gauge says what the test wants.
func adapter(t *testing.T, speak func(to io.Writer)) string {
	t.Helper()
	at, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = at.Close() })
	go func() {
		for {
			conn, err := at.Accept()
			if err != nil {
				return
			}
			go func() {
				defer func() { _ = conn.Close() }()
				speak(conn)
			}()
		}
	}()
	return at.Addr().String()
}

func say(lines ...string) func(io.Writer) {
	return func(to io.Writer) {
		_, _ = io.WriteString(to, strings.Join(lines, "\r\n")+"\r\n")
		time.Sleep(time.Hour)
	}
}

func of(address string) Source {
	return Source{
		ID:         "dial",
		Address:    address,
		Resolution: quantity.Say(quantity.Magnitude(1e-5), quantity.Named("mm")).Any,
	}
}

// until hears a gauge until something is so.
func until(t *testing.T, s *Screen, is func(h Heard) bool) (all []Heard) {
	t.Helper()
	for over := time.After(20 * time.Second); ; {
		select {
		case h := <-s.Heard:
			all = append(all, h)
			if is(h) {
				return all
			}
		case <-over:
			require.Fail(t, "the gauge never said so", "%+v", all)
		}
	}
}

func texts(all []Heard) (read []string) {
	for _, h := range all {
		for _, v := range h.Readings {
			read = append(read, v.Text)
		}
	}
	return read
}

func has(part string) func(Heard) bool {
	return func(h Heard) bool { return strings.Contains(h.Says, part) }
}

func TestAGaugeIsFollowed(t *testing.T) {
	t.Parallel()
	var g Gauges
	s := g.Follow(of(adapter(t, say("+0.123 mm", "0.0048 in", "12", "−0,5 mm", ""))))
	defer s.Leave()
	all := until(t, s, func(h Heard) bool { return slices.Contains(texts([]Heard{h}), "-0.50 mm") })
	assert.Equal(t, []string{"0.123 mm", "0.122 mm", "12.00 mm", "-0.50 mm"}, texts(all), "all in the gauge's own unit")
	assert.Equal(t, Alive, all[len(all)-1].State)
	second := g.Follow(s.line.source)
	assert.Same(t, s.line, second.line, "one line for all who follow")
	second.Leave()
}

// A value that has come to rest is told once.
func TestAGaugeComesToRest(t *testing.T) {
	t.Parallel()
	var g Gauges
	s := g.Follow(of(adapter(t, func(to io.Writer) {
		for range 60 {
			_, _ = io.WriteString(to, "0.250 mm\n")
			time.Sleep(20 * time.Millisecond)
		}
		time.Sleep(time.Hour)
	})))
	defer s.Leave()
	all := until(t, s, func(h Heard) bool { return h.State == Silent })
	var rests []string
	for _, h := range all {
		if h.Settled != nil {
			rests = append(rests, h.Settled.Text)
		}
	}
	assert.Equal(t, []string{"0.25 mm"}, rests)
	assert.Len(t, texts(all), 60, "nothing is lost")
}

// A line that drops is said at once, called again, and what was read before stays read.
func TestALineThatDrops(t *testing.T) {
	t.Parallel()
	var g Gauges
	s := g.Follow(of(adapter(t, func(to io.Writer) {
		_, _ = io.WriteString(to, "0.1 mm\n")
		time.Sleep(150 * time.Millisecond)
	})))
	defer s.Leave()
	all := until(t, s, func(h Heard) bool { return h.State == Lost })
	assert.Equal(t, []string{"0.10 mm"}, texts(all))
	assert.Equal(t, "its line was closed: check its cable and its power", all[len(all)-1].Says)
	until(t, s, func(h Heard) bool { return len(h.Readings) > 0 })

	gone := g.Follow(of("127.0.0.1:1"))
	defer gone.Leave()
	until(t, gone, has("cannot be reached"))
}

// What is no reading is counted and said with what to check; nothing of it is shown.
func TestWhatIsNoReading(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		speaks func(io.Writer)
		says   string
	}{
		"rubbish":    {say(strings.Split(strings.Repeat("<b>secret</b> ", 40), " ")...), "no reading"},
		"other unit": {say(strings.Split(strings.Repeat("12.5N·m ", 40), " ")...), "it sends N·m, and this gauge reads mm"},
		"endless": {func(to io.Writer) {
			_, _ = to.Write(bytes.Repeat([]byte("7"), 1<<20))
			time.Sleep(time.Hour)
		}, "no reading"},
		"beyond": {say("0.1 mm over"), "beyond what the gauge can show"},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			var g Gauges
			s := g.Follow(of(adapter(t, c.speaks)))
			defer s.Leave()
			all := until(t, s, has(c.says))
			assert.Empty(t, texts(all))
			assert.NotContains(t, fmt.Sprint(all), "secret")
		})
	}
}

// A gauge that talks ten thousand values a second is thinned, and told so.
func TestAGaugeThatTalksTooFast(t *testing.T) {
	t.Parallel()
	var g Gauges
	s := g.Follow(of(adapter(t, func(to io.Writer) {
		for {
			if _, err := io.WriteString(to, strings.Repeat("0.250 mm\n", 500)); err != nil {
				return
			}
			time.Sleep(50 * time.Millisecond)
		}
	})))
	defer s.Leave()
	all := until(t, s, has("more than 1000 readings a second"))
	for _, h := range all {
		assert.LessOrEqual(t, len(h.Readings), mostATime)
	}
}

// A screen that does not read is told how much it missed, and holds nobody up.
func TestAScreenThatDoesNotRead(t *testing.T) {
	t.Parallel()
	l := &line{screens: map[*Screen]int{}}
	s := l.join()
	for range screenHolds + 9 {
		l.tell(Heard{State: Alive, Readings: []Value{{"1 mm", 1}}})
	}
	<-s.Heard
	l.tell(Heard{State: Alive})
	var last Heard
	for len(s.heard) > 0 {
		last = <-s.Heard
	}
	assert.Equal(t, 10, last.Missed)
}

func TestAnAddressOfAGauge(t *testing.T) {
	t.Parallel()
	g := Gauges{Networks: []netip.Prefix{netip.MustParsePrefix("203.0.113.0/24")}}
	for _, fine := range []string{"192.168.1.40:4001", "127.0.0.1:7410", "[fd00::1]:23", "[fe80::1%eth0]:23", "adapter.local:4001",
		"203.0.113.9:1"} {
		require.NoError(t, g.CheckAddress(fine), fine)
	}
	for _, wrong := range []string{"", "4001", "192.168.1.40", ":4001", "192.168.1.40:0", "192.168.1.40:http", "198.51.100.1:23",
		"[::ffff:198.51.100.1]:23", "169.254.169.254.nip:99999", "0.0.0.0:23"} {
		var fields input.Fields
		require.ErrorAs(t, g.CheckAddress(wrong), &fields, wrong)
		assert.Equal(t, "address", fields[0].Path)
	}
	// A name is judged by where it leads, when it is called.
	require.ErrorIs(t, g.onlyAllowed("tcp", "198.51.100.1:23", nil), errOutside)
	require.NoError(t, g.onlyAllowed("tcp", "10.1.2.3:23", nil))
}

// However a stream is cut into chunks, its lines are the same, and none is longer
// than a gauge's.
func FuzzLines(f *testing.F) {
	f.Add([]byte("0.1 mm\r\n0.2 mm\r0.3 mm\n\n"), 3)
	f.Add(bytes.Repeat([]byte("x"), 400), 7)
	f.Fuzz(func(t *testing.T, stream []byte, size int) {
		size = 1 + max(0, size)%64
		var whole, cut []string
		var a, b splitter
		a.take(stream, func(l string) { whole = append(whole, l) })
		for chunk := range slices.Chunk(stream, size) {
			b.take(chunk, func(l string) { cut = append(cut, l) })
		}
		assert.Equal(t, whole, cut)
		for _, l := range whole {
			assert.LessOrEqual(t, len(l), metrology.MaxGaugeLine+1)
		}
		joined := strings.ReplaceAll(strings.ReplaceAll(string(stream), "\r\n", "\n"), "\r", "\n")
		assert.Len(t, whole, strings.Count(joined, "\n"))
	})
}

// BenchmarkHear is one reading's way from its line to what a screen is told.
func BenchmarkHear(b *testing.B) {
	e := newEar(of("").Resolution)
	for n := range b.N {
		e.take(float64(n)/100, "+0.123 mm t=0.250")
		if n%5 == 0 {
			e.tell()
		}
	}
}
