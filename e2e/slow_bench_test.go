package e2e

import (
	"fmt"
	"slices"
	"testing"

	"github.com/go-rod/rod/lib/proto"
)

// A tablet at the far end of the yard: 4G at 1.6 Mbit/s with 150 ms each way and
// back, and a processor six times slower than this one.
const (
	slowBytes   = 1.6e6 / 8
	slowLatency = 150
	slowTimes   = 6
)

// farAway slows a page's line and processor; anew: nothing was ever loaded here.
func (p *Person) farAway(b *testing.B, anew bool) {
	b.Helper()
	check := func(err error) {
		if err != nil {
			b.Fatal(err)
		}
	}
	check(proto.NetworkEnable{}.Call(p.Page))
	check(proto.NetworkSetCacheDisabled{CacheDisabled: anew}.Call(p.Page))
	check(proto.NetworkEmulateNetworkConditions{Latency: slowLatency, DownloadThroughput: slowBytes,
		UploadThroughput: slowBytes}.Call(p.Page))
	check(proto.EmulationSetCPUThrottlingRate{Rate: slowTimes}.Call(p.Page))
}

// opens measures from asking for a page until it shows so many of something, by the
// page's own clock, and what was asked for by then. To be asked from outside
// whether it is there yet would cost a slow processor more than the page.
func (p *Person) opens(path, shows string, many int) (took float64, requests int) {
	forget, err := p.EvalOnNewDocument(fmt.Sprintf(`new MutationObserver((_, watch) => {
		if (document.querySelectorAll(%q).length < %d) return;
		watch.disconnect();
		requestAnimationFrame(() => setTimeout(() => (window.drawn = [performance.now(), performance.getEntriesByType('resource').length + 1])));
	}).observe(document, { childList: true, subtree: true })`, shows, many))
	if err != nil {
		p.fail(path, err)
	}
	defer func() { _ = forget() }()
	p.MustNavigate(p.base + "/mark.svg").MustWaitLoad() // the page before has ended its work
	if err := p.Navigate(p.base + path); err != nil {
		p.fail(path, err)
	}
	p.wait(path, `() => window.drawn !== undefined`)
	drawn := p.MustEval(`() => window.drawn`)
	return drawn.Get("0").Num(), drawn.Get("1").Int()
}

// BenchmarkSlowLine reports how long board and step take on it, in how many
// requests, and how long from Enter to an empty field: on the first visit ever,
// and with the scripts of that version in the browser's cache.
func BenchmarkSlowLine(b *testing.B) {
	for name, anew := range map[string]bool{"first-visit": true, "any-day": false} {
		b.Run(name, func(b *testing.B) { slowLine(b, anew) })
	}
}

func slowLine(b *testing.B, anew bool) {
	odo := atTheBench(b)
	step := odo.rebuildPath("Beach cleaner") + "/end-float"
	odo.farAway(b, anew)
	var board, bench, enter []float64
	boardRequests, stepRequests := 0, 0
	for b.Loop() {
		took, n := odo.opens("/", "main li a", 4)
		board, boardRequests = append(board, took), n
		took, n = odo.opens(step, `[aria-label="Next reading"]`, 1)
		bench, stepRequests = append(bench, took), n
		enter = append(enter, odo.MustEval(`async () => {
			const field = document.querySelector('[aria-label="Next reading"]');
			field.focus();
			Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(field, '24.1');
			field.dispatchEvent(new Event('input', { bubbles: true }));
			await new Promise(r => setTimeout(r, 400));
			const start = performance.now();
			field.form.requestSubmit();
			while (document.querySelector('[aria-label="Next reading"]')?.value !== '') await new Promise(r => setTimeout(r, 1));
			return performance.now() - start;
		}`).Num())
	}
	b.ReportMetric(median(board), "board-ms")
	b.ReportMetric(float64(boardRequests), "board-requests")
	b.ReportMetric(median(bench), "step-ms")
	b.ReportMetric(float64(stepRequests), "step-requests")
	b.ReportMetric(median(enter), "enter-ms")
	b.ReportMetric(0, "ns/op")
}

func median(took []float64) float64 {
	slices.Sort(took)
	return took[len(took)/2]
}
