package e2e

import (
	"fmt"
	"slices"
	"testing"
)

// What a hand at the bench waits for, measured in the page from the event to
// the picture after the change.

// BenchmarkKeystrokeToDrawn types another reading and waits for its meaning.
func BenchmarkKeystrokeToDrawn(b *testing.B) {
	odo := atTheBench(b)
	odo.Go(odo.rebuildPath("Beach cleaner") + "/end-float")
	odo.Field("Next reading")
	odo.See("End float")
	took := []float64{}
	for b.Loop() {
		text := fmt.Sprintf("%.2f", 20+float64(len(took)%400)/100) // not asked before
		took = append(took, odo.MustEval(`async text => {
			const field = document.querySelector('[aria-label="Next reading"]');
			const figure = () => document.querySelector('aside [aria-live] .text-figure')?.textContent;
			const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
			const before = figure(), began = performance.now();
			set.call(field, text);
			field.dispatchEvent(new Event('input', { bubbles: true }));
			while (figure() === before) await new Promise(requestAnimationFrame);
			return performance.now() - began;
		}`, text).Num())
	}
	report(b, took)
}

// BenchmarkBoardToStep follows a rebuild from the board to its drawn step. The
// page is new, so only the assets are cached.
func BenchmarkBoardToStep(b *testing.B) {
	odo := atTheBench(b)
	took := []float64{}
	for b.Loop() {
		odo.Go("/")
		odo.find(
			"the rebuild",
			`() => [...document.querySelectorAll('main li a')].find(a => a.innerText.includes('Beach cleaner')) ?? null`,
		)
		took = append(took, odo.MustEval(`async () => {
			await new Promise(done => requestIdleCallback(done)); // what is fetched ahead is here
			const began = performance.now();
			[...document.querySelectorAll('main li a')].find(a => a.innerText.includes('Beach cleaner')).click();
			while (!document.querySelector('main[data-step] svg')) await new Promise(requestAnimationFrame);
			return performance.now() - began;
		}`).Num())
	}
	report(b, took)
}

// atTheBench is a mechanic at a program that others only look at.
func atTheBench(b *testing.B) *Person {
	b.Helper()
	p, err := shared()
	if err != nil {
		b.Fatal(err)
	}
	return signIn(b, p.Base, "odo")
}

func report(b *testing.B, took []float64) {
	b.Helper()
	slices.Sort(took)
	b.ReportMetric(took[len(took)/2], "ms-p50")
	b.ReportMetric(took[len(took)*99/100], "ms-p99")
	b.ReportMetric(0, "ns/op") // of the driver, not of the page
}
