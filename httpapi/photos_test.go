package httpapi_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"net"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/httpapi"
)

func TestPhotographs(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	u := p.signIn("odo")
	r := u.open()
	path := "/api/v1/rebuilds/" + r.ID + "/photos"

	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, gradient(2400, 1200)))
	res, body := u.send(http.MethodPost, path, picture.String(), map[string]string{"Content-Type": "text/html"})
	require.Equal(t, http.StatusCreated, res.StatusCode, body)
	var kept httpapi.PhotoView
	require.NoError(t, json.Unmarshal([]byte(body), &kept))
	assert.Equal(t, 1600, kept.Width)
	res, body = u.send(http.MethodGet, "/api/v1/photos/"+kept.ID, "", nil)
	assert.Equal(t, "image/jpeg", res.Header.Get("Content-Type"))
	assert.Contains(t, res.Header.Get("Content-Disposition"), "attachment", "a file to be saved, outside our pages")
	assert.Equal(t, "default-src 'none'; sandbox", res.Header.Get("Content-Security-Policy"))
	config, err := jpeg.DecodeConfig(strings.NewReader(body))
	require.NoError(t, err)
	assert.Equal(t, 800, config.Height)

	for range 2 { // the second time it is remembered
		res, body = u.send(http.MethodGet, "/api/v1/photos/"+kept.ID+"/preview", "", nil)
		require.Equal(t, http.StatusOK, res.StatusCode)
		assert.Equal(t, "image/jpeg", res.Header.Get("Content-Type"))
		assert.Equal(t, "default-src 'none'; sandbox", res.Header.Get("Content-Security-Policy"))
		assert.Less(t, len(body), 30_000)
	}
	res, _ = u.send(http.MethodGet, "/api/v1/photos/00000000-0000-4000-8000-000000000000/preview", "", nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode)

	res, body = u.send(http.MethodPost, path, "<script>alert(1)</script>",
		map[string]string{"Content-Type": "image/png"})
	assert.Equal(t, http.StatusUnsupportedMediaType, res.StatusCode)
	assert.Contains(t, problemOf(t, res, body).Detail, "is not a JPEG, PNG")
	res, body = u.send(http.MethodPost, path, picture.String()[:picture.Len()/2],
		map[string]string{"Content-Type": "image/png"})
	assert.Equal(t, http.StatusUnsupportedMediaType, res.StatusCode, body)
	assert.Equal(t, http.StatusRequestEntityTooLarge, u.tooLarge(path, 40<<20))

	res, body = u.send(
		http.MethodPost, "/api/v1/rebuilds/"+r.ID+"/steps/arrival-photo/entries",
		fmt.Sprintf(`{"act":"photo","photo":%q}`, kept.ID), key(),
	)
	assert.Equal(t, http.StatusCreated, res.StatusCode, body)
}

func gradient(w, h int) image.Image {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for x := range w {
		for y := range h {
			img.Set(x, y, color.RGBA{uint8(x), uint8(y), uint8(x * y), 255})
		}
	}
	return img
}

// tooLarge sends n bytes and reads the answer, which may come before all were
// taken.
func (u *user) tooLarge(path string, n int) int {
	conn, err := net.Dial("tcp", u.listen())
	require.NoError(u.t, err)
	defer func() { _ = conn.Close() }()
	_, err = fmt.Fprintf(
		conn, "POST %s HTTP/1.1\r\nHost: localhost\r\nCookie: %s\r\nX-CSRF-Token: %s\r\nContent-Length: %d\r\n\r\n",
		path, u.cookie, u.csrf, n,
	)
	require.NoError(u.t, err)
	res, err := http.ReadResponse(bufio.NewReader(conn), nil)
	require.NoError(u.t, err)
	defer func() { _ = res.Body.Close() }()
	return res.StatusCode
}
