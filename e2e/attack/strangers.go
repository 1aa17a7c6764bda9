package main

import (
	"bytes"
	"compress/gzip"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"io"
	"net/http"
	"strings"
	"sync"
	"time"

	"handwerk/e2e"
)

// bombs throws three kinds at once: bodies of 306 kB that unpack to 300 MB,
// announcements of 12 MB, and pictures of 60 million dots.
func (a *attack) bombs(storm time.Duration) error {
	watcher, err := a.signIn("ilva")
	if err != nil {
		return err
	}
	mechanic, err := a.signIn("odo")
	if err != nil {
		return err
	}
	reader, err := a.signIn("guest")
	if err != nil {
		return err
	}
	rebuild, err := mechanic.open()
	if err != nil {
		return err
	}
	packed, err := packedBomb(300 << 20)
	if err != nil {
		return err
	}
	picture := string(pictureBomb(59_999_999, 1)) + strings.Repeat("\x00", 58_000)
	stop := make(chan struct{})
	times := watcher.watch(stop)
	var all []*sync.WaitGroup
	all = append(all, many(4, stop, func(int) { a.post("/api/v1/session", packed, "gzip") }))
	all = append(all, many(50, stop, func(int) {
		_ = a.dial(
			"POST /api/v1/session HTTP/1.1\nHost: localhost\nContent-Type: application/json\nContent-Length: 12000000",
		)
		time.Sleep(100 * time.Millisecond)
	}))
	all = append(all, many(4, stop, func(i int) {
		_, _, _ = []*hand{mechanic, reader}[i%2].send(http.MethodPost, "/api/v1/rebuilds/"+rebuild+"/photos", picture,
			"")
	}))
	most := 0.0
	for until := time.Now().Add(storm); time.Now().Before(until); time.Sleep(50 * time.Millisecond) {
		most = max(most, a.residentMB())
	}
	close(stop)
	for _, wg := range all {
		wg.Wait()
	}
	p99 := quantile(<-times, 0.99)
	a.must(fmt.Sprintf("memory of the process, most in %s", storm), most < 200, fmt.Sprintf("%.0f MB", most),
		"under 200 MB")
	a.must("the board meanwhile, p99", p99 < 100*time.Millisecond, p99.Round(100*time.Microsecond).String(),
		"under 100ms")
	return nil
}

func (a *attack) post(path, body, encoding string) {
	req, err := http.NewRequest(http.MethodPost, a.Base+path, strings.NewReader(body))
	if err != nil {
		return
	}
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("Content-Encoding", encoding)
	if res, err := http.DefaultClient.Do(req); err == nil {
		_, _ = io.Copy(io.Discard, res.Body)
		_ = res.Body.Close()
	}
}

func packedBomb(size int) (string, error) {
	var out bytes.Buffer
	w := gzip.NewWriter(&out)
	zeros := make([]byte, 1<<20)
	for range size >> 20 {
		if _, err := w.Write(zeros); err != nil {
			return "", err
		}
	}
	err := w.Close()
	return out.String(), err
}

// pictureBomb is the head of a PNG that claims dimensions.
func pictureBomb(w, h uint32) []byte {
	ihdr := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32([]byte("IHDR"), w), h)
	ihdr = append(ihdr, 8, 2, 0, 0, 0)
	out := append([]byte("\x89PNG\r\n\x1a\n"), 0, 0, 0, 13)
	out = append(out, ihdr...)
	return binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(ihdr))
}

// guesses tries two hundred passwords at once, and then the right one from a
// browser that is known and from one that is not.
func (a *attack) guesses() error {
	count := map[int]int{}
	var mu sync.Mutex
	var wg sync.WaitGroup
	for i := range 200 {
		wg.Add(1)
		go func() {
			defer wg.Done()
			res, _, err := (&hand{base: a.Base, client: http.DefaultClient}).send(
				http.MethodPost, "/api/v1/session", fmt.Sprintf(`{"login":"runa","password":"guess %d"}`, i), "",
			)
			mu.Lock()
			defer mu.Unlock()
			if err != nil {
				count[0]++
				return
			}
			count[res.StatusCode]++
		}()
	}
	wg.Wait()
	a.must("passwords tried of 200 guessed at once", count[http.StatusUnauthorized] <= 5,
		fmt.Sprint(count[http.StatusUnauthorized]), "at most 5")
	a.must(
		"others told to wait", count[http.StatusUnauthorized]+count[http.StatusTooManyRequests] == 200,
		fmt.Sprint(count[http.StatusTooManyRequests]), "all others",
	)
	res, _, err := (&hand{base: a.Base, client: http.DefaultClient}).send(
		http.MethodPost, "/api/v1/session", fmt.Sprintf(`{"login":"runa","password":%q}`, e2e.Password), "",
	)
	if err != nil {
		return err
	}
	a.must("the right password, from where the guesses came", res.StatusCode == http.StatusTooManyRequests,
		fmt.Sprint(res.StatusCode), "429")
	return nil
}
