package main

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"encoding/json"
	"errors"
	"fmt"
	"hash/crc32"
	"net/http"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"handwerk/core/quantity"
	"handwerk/e2e"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
)

// What somebody can do who has an account: large pictures, guesses at others
// with cookies of his own, and counting a drawer that others take from.

// pictures sends a picture of 6300 by 6300 dots in 16 bit, about 300 kB packed,
// four at once and again and again.
func (a *attack) pictures() error {
	mechanic, id, err := a.withRebuild()
	if err != nil {
		return err
	}
	reader, err := a.signIn("guest")
	if err != nil {
		return err
	}
	raw, err := hugePicture(6300)
	if err != nil {
		return err
	}
	small, err := hugePicture(64)
	if err != nil {
		return err
	}
	before, most := a.residentMB(), 0.0
	stop := make(chan struct{})
	times := reader.watch(stop)
	senders := many(4, stop, func(int) {
		_, _, _ = mechanic.send(http.MethodPost, "/api/v1/rebuilds/"+id+"/photos", raw, "")
	})
	var shutOut atomic.Int64
	others := many(1, stop, func(int) {
		res, _, err := mechanic.send(http.MethodPost, "/api/v1/rebuilds/"+id+"/photos", small, newKey())
		if err != nil || res.StatusCode != http.StatusCreated {
			shutOut.Add(1)
		}
		time.Sleep(time.Second)
	})
	for until := time.Now().Add(10 * time.Second); time.Now().Before(until); time.Sleep(20 * time.Millisecond) {
		most = max(most, a.residentMB())
	}
	close(stop)
	senders.Wait()
	others.Wait()
	p99 := quantile(<-times, 0.99)
	a.must(
		fmt.Sprintf("memory taken by pictures of %d kB, four at once", len(raw)>>10), most-before < 100,
		fmt.Sprintf("%.0f MB", most-before), "under 100 MB",
	)
	a.must("pictures of others refused meanwhile", shutOut.Load() == 0, fmt.Sprint(shutOut.Load()), "none")
	a.must("the board meanwhile, p99", p99 < 100*time.Millisecond, p99.Round(100*time.Microsecond).String(),
		"under 100ms")
	return nil
}

// hugePicture is a black PNG, square, four channels of 16 bit.
func hugePicture(dots int) (string, error) {
	var data bytes.Buffer
	w, err := zlib.NewWriterLevel(&data, zlib.BestCompression)
	if err != nil {
		return "", err
	}
	row := make([]byte, 1+8*dots)
	for range dots {
		if _, err := w.Write(row); err != nil {
			return "", err
		}
	}
	if err := w.Close(); err != nil {
		return "", err
	}
	head := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, uint32(dots)), uint32(dots))
	out := []byte("\x89PNG\r\n\x1a\n")
	for _, chunk := range []struct {
		name string
		data []byte
	}{{"IHDR", append(head, 16, 6, 0, 0, 0)}, {"IDAT", data.Bytes()}, {"IEND", nil}} {
		named := append([]byte(chunk.name), chunk.data...)
		out = binary.BigEndian.AppendUint32(out, uint32(len(chunk.data)))
		out = binary.BigEndian.AppendUint32(append(out, named...), crc32.ChecksumIEEE(named))
	}
	return string(out), nil
}

// insider signs in as a reader again and again, and guesses at a lead with each
// cookie this earns.
func (a *attack) insider() error {
	tried, waits := 0, 0
	for range 40 {
		known, err := a.knownCookie("guest")
		if err != nil {
			return err
		}
		for i := range 5 {
			guess := &hand{base: a.Base, client: http.DefaultClient, cookie: known}
			res, _, err := guess.send(http.MethodPost, "/api/v1/session",
				fmt.Sprintf(`{"login":"odo","password":"guess %d of an insider"}`, i), "")
			if err != nil {
				return err
			}
			switch res.StatusCode {
			case http.StatusUnauthorized:
				tried++
			case http.StatusTooManyRequests:
				waits++
			}
		}
	}
	a.must("passwords an insider tried with 200 guesses, fresh cookies", tried <= 5, fmt.Sprint(tried), "at most 5")
	a.must("others told to wait", tried+waits == 200, fmt.Sprint(waits), "all others")
	return nil
}

// knownCookie signs in and gives the mark of a known browser that this earns.
func (a *attack) knownCookie(login string) (string, error) {
	res, raw, err := (&hand{base: a.Base, client: http.DefaultClient}).send(
		http.MethodPost, "/api/v1/session", fmt.Sprintf(`{"login":%q,"password":%q}`, login, e2e.Password), "",
	)
	if err != nil {
		return "", err
	}
	for _, c := range res.Cookies() {
		if c.Name == "handwerk_known" {
			return c.Name + "=" + c.Value, nil
		}
	}
	return "", fmt.Errorf("signing in: %d %s", res.StatusCode, raw)
}

// counting counts a drawer from both ends while packs are taken from it.
func (a *attack) counting() error {
	lead, err := a.signIn("ilva")
	if err != nil {
		return err
	}
	fitting := make([]func() error, 3)
	for i := range fitting {
		if fitting[i], err = lead.fits(); err != nil {
			return err
		}
	}
	lines, err := lead.drawer("thrust-washers")
	if err != nil {
		return err
	}
	backwards := slices.Clone(lines)
	slices.Reverse(backwards)
	answers := map[int]int{}
	var mu sync.Mutex
	stop := make(chan struct{})
	counters := many(4, stop, func(i int) {
		raw, _ := json.Marshal(map[string]any{"lines": [][]shop.DrawerLine{lines, backwards}[i%2], "why": "counted"})
		res, _, err := lead.send(http.MethodPost, "/api/v1/drawers/thrust-washers", string(raw), "")
		mu.Lock()
		defer mu.Unlock()
		if err == nil {
			answers[res.StatusCode]++
		}
	})
	fits := 0
	for until := time.Now().Add(5 * time.Second); time.Now().Before(until); fits++ {
		for _, fit := range fitting {
			err = errors.Join(err, fit())
		}
	}
	close(stop)
	counters.Wait()
	bad := 0
	for status, n := range answers {
		if status >= 500 {
			bad += n
		}
	}
	a.must(
		fmt.Sprintf("errors in %d counts of a drawer while packs are fitted", answers[http.StatusOK]),
		bad == 0 && answers[http.StatusOK] > 0, fmt.Sprint(bad), "none",
	)
	a.must(fmt.Sprintf("errors in %d packs fitted and taken back", fits*len(fitting)), err == nil, errorWords(err),
		"none")
	return nil
}

func errorWords(err error) string {
	if err == nil {
		return "0"
	}
	return strings.TrimSpace(err.Error())
}

// drawer is what lies in one, each size counted well.
func (h *hand) drawer(id string) ([]shop.DrawerLine, error) {
	_, raw, err := h.send(http.MethodGet, "/api/v1/drawers", "", "")
	if err != nil {
		return nil, err
	}
	var list struct{ Drawers []shop.DrawerPage }
	if err := json.Unmarshal(raw, &list); err != nil {
		return nil, err
	}
	var lines []shop.DrawerLine
	plenty := quantity.Count(500)
	for _, d := range list.Drawers {
		for _, x := range d.Items {
			if d.ID == id {
				lines = append(lines, shop.DrawerLine{Size: x.Size, Count: &plenty})
			}
		}
	}
	return lines, nil
}

// fits brings a rebuild to its end float, and gives what measures there and fits a
// pack, each time another.
func (h *hand) fits() (func() error, error) {
	const step = "end-float"
	id, err := h.open()
	if err != nil {
		return nil, err
	}
	for {
		var sheet record.Sheet
		if err := h.read("/rebuilds/"+id, &sheet); err != nil {
			return nil, err
		}
		i := slices.IndexFunc(sheet.Steps, func(s record.StepStatus) bool {
			return s.Status == record.Open ||
				s.Status == record.Held
		})
		if sheet.Steps[i].ID == step {
			break
		}
		view, err := h.step(id, sheet.Steps[i].ID)
		if err == nil {
			err = h.say(id, sheet.Steps[i].ID, kinds.Plausible(view))
		}
		if err != nil {
			return nil, err
		}
	}
	wide := false
	return func() error {
		wide = !wide
		reading := map[bool]string{true: "1.20 mm", false: "0.02 mm"}[wide]
		for range 2 {
			if err := h.send2xx(id, step, fmt.Sprintf(`{"act":"reading","value":%q}`, reading)); err != nil {
				return err
			}
		}
		view, err := h.step(id, step)
		if err != nil {
			return err
		}
		if next := kinds.Plausible(view); next.Says.Name() == (acts.Fit{}).Name() {
			return h.say(id, step, next)
		}
		return h.send2xx(id, step, `{"act":"again","reason":"looked at once more"}`)
	}, nil
}

func (h *hand) read(path string, into any) error {
	_, raw, err := h.send(http.MethodGet, "/api/v1"+path, "", "")
	if err != nil {
		return err
	}
	return json.Unmarshal(raw, into)
}

func (h *hand) step(rebuild, step string) (record.StepView, error) {
	_, raw, err := h.send(http.MethodGet, "/api/v1/rebuilds/"+rebuild+"/steps/"+step, "", "")
	if err != nil {
		return nil, err
	}
	return kinds.ReadStepView(raw)
}

func (h *hand) say(rebuild, step string, d record.Draft) error {
	raw, err := json.Marshal(d)
	if err != nil {
		return err
	}
	return h.send2xx(rebuild, step, string(raw))
}

func (h *hand) send2xx(rebuild, step, body string) error {
	res, raw, err := h.send(http.MethodPost, "/api/v1/rebuilds/"+rebuild+"/steps/"+step+"/entries", body, newKey())
	if err == nil && res.StatusCode >= 300 {
		err = fmt.Errorf("%s: %s: %s", step, body, raw)
	}
	return err
}
