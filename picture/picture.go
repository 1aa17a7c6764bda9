// Package picture takes in photographs that strangers may have made: it looks
// at their size before it decodes them, decodes few at once, and keeps only
// the picture itself, as a fresh JPEG.
package picture

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	_ "image/gif" // decoders for what cameras and screens produce
	"image/jpeg"
	_ "image/png"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp"
	"golang.org/x/sync/semaphore"
)

const (
	// MaxBytes is the largest file taken in.
	MaxBytes = 12 << 20
	// MaxPixels and MaxSide bound a picture's dimensions; they are read before
	// anything is decoded.
	MaxPixels = 40_000_000
	MaxSide   = 12_000

	longestSide = 1600
	quality     = 82
	// A preview is small enough for a page of sixty: no longer side, no more bytes.
	previewSide = 320
	// MaxPreview is the most a preview takes, in bytes.
	MaxPreview = 30_000
	// atOnce pictures are worked on at the same time, in a process; one that
	// needs more than bigCost of memory has the room of all to itself.
	atOnce  = 2
	bigCost = maxCost / 2
)

// Picture is a photograph as it is kept.
type Picture struct {
	SHA256 string
	Type   string // image/jpeg
	Width  int
	Height int
	Bytes  []byte
}

// The reasons why a file is not taken in.
var (
	ErrNotAPicture = errors.New("this file is not a JPEG, PNG, GIF or WebP picture")
	ErrCutOff      = errors.New("the picture is cut off or broken; send it again")
	ErrTooLarge    = fmt.Errorf("the picture is over %d megapixels, over %d pixels on a side, "+
		"or over %d MB when it is opened; take a smaller one", MaxPixels/1_000_000, MaxSide, maxCost>>20)
)

var room = semaphore.NewWeighted(atOnce)

// Take reads a picture by its content, whatever it claims to be, turns it
// upright, makes it no larger than a bench needs, and writes a fresh JPEG:
// place, camera and anything hidden in the file stay behind. It waits while
// others are worked on, and goes on as long as ctx lasts.
func Take(ctx context.Context, raw []byte) (Picture, error) {
	return within(ctx, raw, func(h head, img image.Image) (Picture, error) {
		small, err := fit(ctx, img, longestSide)
		if err != nil {
			return Picture{}, err
		}
		upright := upright(small, orientation(raw, h.format))
		var out bytes.Buffer
		if err := jpeg.Encode(&out, upright, &jpeg.Options{Quality: quality}); err != nil {
			return Picture{}, err
		}
		return described(out.Bytes(), upright.Bounds()), nil
	})
}

// Kept examines a picture that comes with a record, from another Handwerk: it
// must be what Take gives, a JPEG with nothing in it but the picture. It cannot
// be encoded anew, for the record holds its hash.
func Kept(ctx context.Context, raw []byte) (Picture, error) {
	return within(ctx, raw, func(h head, img image.Image) (Picture, error) {
		b := img.Bounds()
		if h.format != "jpeg" || max(b.Dx(), b.Dy()) > longestSide || !plain(raw) {
			return Picture{}, errors.New("the picture is not in the form in which Handwerk keeps them")
		}
		return described(raw, b), nil
	})
}

// within opens a picture as soon as there is room for it, and holds that room
// until use is done with it.
func within(ctx context.Context, raw []byte, use func(head, image.Image) (Picture, error)) (Picture, error) {
	head, err := look(raw)
	if err != nil {
		return Picture{}, err
	}
	leave, err := head.enter(ctx)
	if err != nil {
		return Picture{}, err
	}
	defer leave()
	img, err := decode(ctx, raw)
	if err != nil {
		return Picture{}, err
	}
	return use(head, img)
}

func described(raw []byte, b image.Rectangle) Picture {
	sum := sha256.Sum256(raw)
	return Picture{SHA256: hex.EncodeToString(sum[:]), Type: "image/jpeg", Width: b.Dx(), Height: b.Dy(), Bytes: raw}
}

// enter waits for room; leave gives it back when all work on the picture is done.
func (h head) enter(ctx context.Context) (leave func(), err error) {
	weight := int64(1)
	if h.cost > bigCost {
		weight = atOnce
	}
	if err := room.Acquire(ctx, weight); err != nil {
		return nil, err
	}
	return func() { room.Release(weight) }, nil
}

// decode opens a picture whose head is sound, unless ctx ends meanwhile.
func decode(ctx context.Context, raw []byte) (image.Image, error) {
	img, _, err := image.Decode(whileWanted{ctx, bytes.NewReader(raw)})
	switch {
	case ctx.Err() != nil:
		return nil, ctx.Err()
	case err != nil:
		return nil, ErrCutOff
	}
	return img, nil
}

// whileWanted reads on as long as somebody waits for it.
type whileWanted struct {
	context.Context
	from *bytes.Reader
}

func (r whileWanted) Read(p []byte) (int, error) {
	if err := r.Err(); err != nil {
		return 0, err
	}
	return r.from.Read(p)
}

// Preview makes a picture that is kept small: for a row in a list, never for
// the record.
func Preview(ctx context.Context, raw []byte) ([]byte, error) {
	head, err := look(raw)
	if err != nil {
		return nil, err
	}
	leave, err := head.enter(ctx)
	if err != nil {
		return nil, err
	}
	defer leave()
	img, err := decode(ctx, raw)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	for side, q := previewSide, 75; ; q -= 15 {
		if q < 30 { // noise packs badly: then it is smaller too
			side, q = side*2/3, 75
		}
		small, err := fit(ctx, img, side)
		if err != nil {
			return nil, err
		}
		out.Reset()
		if err := jpeg.Encode(&out, small, &jpeg.Options{Quality: q}); err != nil || out.Len() <= MaxPreview {
			return out.Bytes(), err
		}
	}
}

// fit makes the longer side no longer than so many dots: first by whole
// numbers of dots, a strip at a time, then the rest, less than by half. Where
// it was see-through it is white.
func fit(ctx context.Context, img image.Image, longest int) (*image.RGBA, error) {
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	if long := max(w, h); long > longest {
		w, h = max(1, w*longest/long), max(1, h*longest/long)
		if n := long / longest; n > 1 {
			small, err := reduced(ctx, img, n)
			if err != nil {
				return nil, err
			}
			img, b = small, small.Bounds()
		}
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	draw.ApproxBiLinear.Scale(out, out.Bounds(), img, b, draw.Over, nil)
	return out, ctx.Err()
}

// reduced takes the mean of each n by n dots; what is over at the far edges
// is left away.
func reduced(ctx context.Context, img image.Image, n int) (*image.RGBA, error) {
	b := img.Bounds()
	out := image.NewRGBA(image.Rect(0, 0, max(1, b.Dx()/n), max(1, b.Dy()/n)))
	strip := image.NewRGBA(image.Rect(0, 0, b.Dx(), n))
	sums := make([]int, 3*out.Rect.Dx())
	for y := range out.Rect.Dy() {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		draw.Draw(strip, strip.Rect, image.White, image.Point{}, draw.Src)
		draw.Draw(strip, strip.Rect, img, image.Pt(b.Min.X, b.Min.Y+y*n), draw.Over)
		clear(sums)
		for sy := range n {
			for x := range out.Rect.Dx() * n {
				at := sy*strip.Stride + 4*x
				for c := range 3 {
					sums[3*(x/n)+c] += int(strip.Pix[at+c])
				}
			}
		}
		for x := range out.Rect.Dx() {
			at := out.PixOffset(x, y)
			for c := range 3 {
				out.Pix[at+c] = uint8(sums[3*x+c] / (n * n))
			}
			out.Pix[at+3] = 0xFF
		}
	}
	return out, nil
}

// orientation reads how the camera was held; 1 when nothing says so.
func orientation(raw []byte, format string) int {
	formats := map[string]imagemeta.ImageFormat{"jpeg": imagemeta.JPEG, "png": imagemeta.PNG, "webp": imagemeta.WebP}
	known, ok := formats[format]
	if !ok {
		return 1
	}
	found := 1
	_, _ = imagemeta.Decode(imagemeta.Options{ // a broken block says nothing, which is fine
		R: bytes.NewReader(raw), ImageFormat: known, Sources: imagemeta.EXIF, LimitNumTags: 500,
		ShouldHandleTag: func(t imagemeta.TagInfo) bool { return t.Tag == "Orientation" },
		HandleTag: func(t imagemeta.TagInfo) error {
			if n, ok := t.Value.(uint16); ok && n >= 1 && n <= 8 {
				found = int(n)
			}
			return nil
		},
	})
	return found
}

// upright turns and mirrors a picture by its EXIF orientation (JEITA CP-3451,
// tag 274): where the first row and column of the file belong.
func upright(img image.Image, orientation int) image.Image {
	if orientation == 1 {
		return img
	}
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	turned := orientation >= 5 // rows of the file are columns of the scene
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	if turned {
		out = image.NewRGBA(image.Rect(0, 0, h, w))
	}
	for y := range out.Bounds().Dy() {
		for x := range out.Bounds().Dx() {
			fx, fy := x, y
			if turned {
				fx, fy = y, x
			}
			switch orientation {
			case 2, 3, 7, 8:
				fx = w - 1 - fx
			}
			switch orientation {
			case 3, 4, 6, 7:
				fy = h - 1 - fy
			}
			out.Set(x, y, img.At(b.Min.X+fx, b.Min.Y+fy))
		}
	}
	return out
}

// plain tells whether a JPEG holds tables and picture only: no application
// block, no comment, nothing behind its end.
func plain(raw []byte) bool {
	const soi, eoi, sos, dqt, dht, sof0 = 0xD8, 0xD9, 0xDA, 0xDB, 0xC4, 0xC0
	if len(raw) < 4 || raw[0] != 0xFF || raw[1] != soi {
		return false
	}
	at := 2
	for at+4 <= len(raw) && raw[at] == 0xFF {
		marker, size := raw[at+1], int(raw[at+2])<<8|int(raw[at+3])
		switch marker {
		case sos:
			// The scan goes on to the end: within it, FF stands before 00 only.
			scan := raw[min(at+2+size, len(raw)):]
			end := bytes.LastIndex(scan, []byte{0xFF, eoi})
			return end == len(scan)-2 && end >= 0 && !hasMarker(scan[:end])
		case dqt, dht, sof0:
			at += 2 + size
		default:
			return false
		}
	}
	return false
}

func hasMarker(scan []byte) bool {
	for i := 0; i+1 < len(scan); i++ {
		if scan[i] == 0xFF && scan[i+1] != 0 {
			return true
		}
	}
	return false
}
