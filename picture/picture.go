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
	// atOnce pictures are decoded at the same time, in a process; one with more
	// than bigPixels has the room of all to itself.
	atOnce    = 2
	bigPixels = 8_000_000
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
	ErrNotAPicture = errors.New("the file is not a JPEG, PNG, GIF or WebP picture, whatever its name says")
	ErrCutOff      = errors.New("the picture is cut off or broken; send it again")
	ErrTooLarge    = fmt.Errorf("the picture has more than %d million dots, or more than %d on a side; take it smaller", MaxPixels/1_000_000, MaxSide)
)

var room = semaphore.NewWeighted(atOnce)

// Take reads a picture by its content, whatever it claims to be, turns it
// upright, makes it no larger than a bench needs, and writes a fresh JPEG:
// place, camera and anything hidden in the file stay behind. It waits while
// others are decoded, as long as ctx lasts.
func Take(ctx context.Context, raw []byte) (Picture, error) {
	img, format, err := decode(ctx, raw)
	if err != nil {
		return Picture{}, err
	}
	img = upright(fit(img, longestSide), orientation(raw, format))
	var out bytes.Buffer
	if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: quality}); err != nil {
		return Picture{}, err
	}
	return described(out.Bytes(), img.Bounds()), nil
}

// Kept examines a picture that comes with a record, from another Handwerk: it
// must be what Take gives, a JPEG with nothing in it but the picture. It cannot
// be encoded anew, for the record holds its hash.
func Kept(ctx context.Context, raw []byte) (Picture, error) {
	img, format, err := decode(ctx, raw)
	if err != nil {
		return Picture{}, err
	}
	b := img.Bounds()
	if format != "jpeg" || max(b.Dx(), b.Dy()) > longestSide || !plain(raw) {
		return Picture{}, errors.New("the picture is not in the form in which Handwerk keeps them")
	}
	return described(raw, b), nil
}

func described(raw []byte, b image.Rectangle) Picture {
	sum := sha256.Sum256(raw)
	return Picture{SHA256: hex.EncodeToString(sum[:]), Type: "image/jpeg", Width: b.Dx(), Height: b.Dy(), Bytes: raw}
}

// decode looks at the dimensions first and then waits for room.
func decode(ctx context.Context, raw []byte) (image.Image, string, error) {
	config, _, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || config.Width < 1 || config.Height < 1 {
		return nil, "", ErrNotAPicture
	}
	if config.Width > MaxSide || config.Height > MaxSide || config.Width*config.Height > MaxPixels {
		return nil, "", ErrTooLarge
	}
	weight := int64(1)
	if config.Width*config.Height > bigPixels {
		weight = atOnce
	}
	if err := room.Acquire(ctx, weight); err != nil {
		return nil, "", err
	}
	defer room.Release(weight)
	img, format, err := image.Decode(bytes.NewReader(raw))
	if err != nil { // its head was sound
		return nil, "", ErrCutOff
	}
	return img, format, nil
}

// Preview makes a picture that is kept small: for a row in a list, never for
// the record.
func Preview(ctx context.Context, raw []byte) ([]byte, error) {
	img, _, err := decode(ctx, raw)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	for side, q := previewSide, 75; ; q -= 15 {
		if q < 30 { // noise packs badly: then it is smaller too
			side, q = side*2/3, 75
		}
		out.Reset()
		if err := jpeg.Encode(&out, fit(img, side), &jpeg.Options{Quality: q}); err != nil || out.Len() <= MaxPreview {
			return out.Bytes(), err
		}
	}
}

// fit makes the longer side no longer than so many dots.
func fit(img image.Image, longest int) image.Image {
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	if long := max(w, h); long > longest {
		w, h = max(1, w*longest/long), max(1, h*longest/long)
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src) // where it was see-through
	draw.CatmullRom.Scale(out, out.Bounds(), img, b, draw.Over, nil)
	return out
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
