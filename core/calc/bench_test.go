package calc

import "testing"

// BenchmarkCalculators runs every worked example from JSON to JSON, as the
// command line and HTTP do.
func BenchmarkCalculators(b *testing.B) {
	for _, c := range All().List() {
		b.Run(c.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := c.Run([]byte(c.Example)); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
