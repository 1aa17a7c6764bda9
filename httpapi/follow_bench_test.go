package httpapi_test

import (
	"bufio"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"slices"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"handwerk/httpapi/follow"
	"handwerk/workshop/shop"
)

// speaks is an adapter on the network whose gauge says what a test wants to whoever
// calls; it gives its address.
func speaks(t testing.TB, say func(to io.Writer)) string {
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
				say(conn)
			}()
		}
	}()
	return at.Addr().String()
}

// chatter says a hundred times a second how many milliseconds it has been speaking for.
func chatter(began time.Time) func(to io.Writer) {
	return func(to io.Writer) {
		for range time.Tick(10 * time.Millisecond) {
			if _, err := fmt.Fprintf(to, "%d mm\r\n", time.Since(began).Milliseconds()); err != nil {
				return
			}
		}
	}
}

// ages reads a stream of events until it has so many readings, and gives how old each was.
func ages(from io.Reader, began time.Time, many int) (old []float64, missed int) {
	lines := bufio.NewScanner(from)
	for len(old) < many && lines.Scan() {
		data, is := strings.CutPrefix(lines.Text(), "data: ")
		var h follow.Heard
		if !is || json.Unmarshal([]byte(data), &h) != nil {
			continue
		}
		missed += h.Missed
		for _, r := range h.Readings {
			old = append(old, float64(time.Since(began).Milliseconds())-r.Value)
		}
	}
	return old, missed
}

// BenchmarkFollowing is four benches that follow a hundred readings a second each: what
// of one core server, gauges and readers take together, and how old a reading is when it
// reaches its screen.
func BenchmarkFollowing(b *testing.B) {
	u, _, _ := bigShop(b)
	began := time.Now()
	var paths []string
	for k := range 4 {
		var page shop.GaugesPage
		u.do(b, "/api/v1/gauges", fmt.Sprintf(
			`{"kind":"dial indicator","name":"Chatter %d","resolution":"1 mm","address":%q}`,
			k,
			speaks(b, chatter(began)),
		), &page)
		i := slices.IndexFunc(page.Gauges, func(g shop.GaugeView) bool { return g.Name == fmt.Sprint("Chatter ", k) })
		paths = append(paths, "/api/v1/gauges/"+page.Gauges[i].ID+"/stream")
	}
	var mu sync.Mutex
	var all []float64
	lost := 0
	spent, since := cpuSpent(b), time.Now()
	b.ResetTimer()
	var wait sync.WaitGroup
	for _, path := range paths {
		req, err := http.NewRequest(http.MethodGet, "http://"+u.listen()+path, nil)
		require.NoError(b, err)
		req.Header.Set("Cookie", u.cookie)
		req.Header.Set("Accept", "text/event-stream")
		res, err := http.DefaultClient.Do(req)
		require.NoError(b, err)
		wait.Go(func() {
			defer func() { _ = res.Body.Close() }()
			old, missed := ages(res.Body, began, max(500, b.N))
			mu.Lock()
			defer mu.Unlock()
			all, lost = append(all, old...), lost+missed
		})
	}
	wait.Wait()
	b.ReportMetric(100*(cpuSpent(b)-spent).Seconds()/time.Since(since).Seconds(), "%core")
	slices.Sort(all)
	b.ReportMetric(all[len(all)*99/100], "ms-old-p99")
	b.ReportMetric(float64(lost), "lost")
}

func cpuSpent(b *testing.B) time.Duration {
	b.Helper()
	var use syscall.Rusage
	require.NoError(b, syscall.Getrusage(syscall.RUSAGE_SELF, &use))
	return time.Duration(use.Utime.Nano() + use.Stime.Nano())
}
