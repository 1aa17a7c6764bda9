package picture

import (
	"bytes"
	"context"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"math/rand/v2"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/draw"
)

// corner is a picture with a red corner at the top left, on black.
func corner(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			img.Set(x, y, color.RGBA{A: 255})
			if x < w/2 && y < h/2 {
				img.Set(x, y, color.RGBA{R: 255, A: 255})
			}
		}
	}
	return img
}

func jpegOf(t *testing.T, img image.Image) []byte {
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, nil))
	return b.Bytes()
}

// with puts segments after the start of a JPEG.
func with(raw []byte, segments ...[]byte) []byte {
	return bytes.Join([][]byte{raw[:2], bytes.Join(segments, nil), raw[2:]}, nil)
}

func exif(orientation byte) []byte {
	return []byte(
		"\xff\xe1\x00\x22Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00" +
			string(orientation) + "\x00\x00\x00\x00\x00\x00",
	)
}

// Source: JEITA CP-3451 (EXIF 2.3), tag Orientation: where the 0th row and the
// 0th column of the file stand in the scene.
func TestPicturesAreSetUpright(t *testing.T) {
	t.Parallel()
	for orientation, red := range map[byte]string{
		1: "top left", 2: "top right", 3: "bottom right", 4: "bottom left", 5: "top left", 6: "top right",
		7: "bottom right",
		8: "bottom left",
	} {
		p, err := Take(context.Background(), with(jpegOf(t, corner(64, 32)), exif(orientation)))
		require.NoError(t, err)
		want := []int{64, 32}
		if orientation >= 5 {
			want = []int{32, 64}
		}
		assert.Equal(t, want, []int{p.Width, p.Height}, "orientation %d", orientation)
		img, err := jpeg.Decode(bytes.NewReader(p.Bytes))
		require.NoError(t, err)
		w, h := p.Width, p.Height
		for place, at := range map[string]image.Point{
			"top left": {4, 4}, "top right": {w - 5, 4}, "bottom left": {4, h - 5}, "bottom right": {w - 5, h - 5},
		} {
			r, _, _, _ := img.At(at.X, at.Y).RGBA()
			assert.Equal(t, place == red, r > 0x8000, "orientation %d, %s", orientation, place)
		}
	}
}

// pngHead is a PNG that claims dimensions and has nothing behind them.
func pngHead(w, h uint32) []byte {
	ihdr := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32([]byte("IHDR"), w), h)
	ihdr = append(ihdr, 8, 2, 0, 0, 0)
	out := append([]byte("\x89PNG\r\n\x1a\n"), 0, 0, 0, 13)
	out = append(out, ihdr...)
	return binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(ihdr))
}

// Dimensions are refused before anything is decoded: the files hold none of the dots they claim.
func TestBombsAreRefusedByTheirDimensions(t *testing.T) {
	t.Parallel()
	for _, size := range [][2]uint32{{59_999_999, 1}, {1, 59_999_999}, {12_001, 10}, {8_000, 5_001},
		{1 << 31, 1 << 31}} {
		_, err := Take(context.Background(), pngHead(size[0], size[1]))
		if size[0] == 1<<31 {
			assert.ErrorIs(t, err, ErrNotAPicture)
			continue
		}
		assert.ErrorIs(t, err, ErrTooLarge, "%v", size)
	}
	grey := pngHead(8_000, 5_000)
	grey[25] = 0 // its colour type
	binary.BigEndian.PutUint32(grey[29:], crc32.ChecksumIEEE(grey[12:29]))
	_, err := Take(context.Background(), grey)
	assert.NotErrorIs(
		t, err, ErrTooLarge, "40 megapixels are taken, if they are there and take no more than a byte each",
	)
}

// What counts is the memory it takes when it is open: 6,300 by 6,300 in 16 bit
// are 317 MB in a file of 300 kB; a phone's 24 million dots are taken.
func TestAPictureTakesLittleMemory(t *testing.T) {
	t.Parallel()
	var deep bytes.Buffer
	require.NoError(t, (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&deep,
		image.NewNRGBA64(image.Rect(0, 0, 6_300, 6_300))))
	large := jpegOf(t, image.NewYCbCr(image.Rect(0, 0, 6_000, 4_000), image.YCbCrSubsampleRatio420))
	for _, c := range []struct {
		name string
		raw  []byte
		want error
		most uint64
	}{{"16 bit", deep.Bytes(), ErrTooLarge, 1 << 20}, {"a phone's", large, nil, 100 << 20}} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		_, err := Take(context.Background(), c.raw)
		runtime.ReadMemStats(&after)
		assert.ErrorIs(t, err, c.want, c.name)
		assert.Less(t, after.TotalAlloc-before.TotalAlloc, c.most, c.name)
	}
}

// A picture made smaller keeps its tones and its edges, whatever decoder it came from.
func TestWhatIsReducedLooksTheSame(t *testing.T) {
	t.Parallel()
	half := image.NewNRGBA(image.Rect(0, 0, 5_000, 300))
	draw.Draw(half, image.Rect(0, 0, 2_500, 300), image.NewUniform(color.NRGBA{200, 40, 40, 255}), image.Point{},
		draw.Src)
	small, err := fit(context.Background(), half, longestSide)
	require.NoError(t, err)
	assert.Equal(t, image.Rect(0, 0, 1600, 96), small.Rect)
	assert.Equal(t, color.RGBA{200, 40, 40, 255}, small.RGBAAt(700, 50))
	assert.Equal(t, color.RGBA{255, 255, 255, 255}, small.RGBAAt(900, 50), "see-through is white")
}

// Nobody waits for it any more: it is left, at whatever it was.
func TestNobodyWaits(t *testing.T) {
	t.Parallel()
	ctx, cancel := context.WithCancel(context.Background())
	raw := jpegOf(t, corner(3000, 2000))
	cancel()
	_, err := decode(ctx, raw)
	assert.ErrorIs(t, err, context.Canceled)
	_, err = fit(ctx, corner(5000, 40), longestSide)
	assert.ErrorIs(t, err, context.Canceled)
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	t.Parallel()
	whole := jpegOf(t, corner(200, 100))
	for name, c := range map[string]struct {
		raw  []byte
		want error
	}{
		"script": {
			[]byte("<script>alert(1)</script>"), ErrNotAPicture,
		}, "empty": {nil, ErrNotAPicture}, "cut off": {whole[:len(whole)-20], ErrCutOff},
	} {
		_, err := Take(context.Background(), c.raw)
		assert.ErrorIs(t, err, c.want, name)
	}
}

func TestOnlyTwoAreDecodedAtOnce(t *testing.T) {
	t.Parallel()
	require.NoError(t, room.Acquire(context.Background(), atOnce))
	defer room.Release(atOnce)
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, err := Take(ctx, jpegOf(t, corner(8, 8)))
	assert.ErrorIs(t, err, context.Canceled)
}

func TestTakenPicturesAreSmallAndPlain(t *testing.T) {
	t.Parallel()
	var g, p bytes.Buffer
	require.NoError(t, gif.Encode(&g, corner(300, 100), nil))
	require.NoError(t, png.Encode(&p, corner(3200, 800)))
	comment := []byte("\xff\xfe\x00\x0eharbour 7 ka")
	for name, raw := range map[string][]byte{"jpeg": with(jpegOf(t, corner(40, 20)), exif(6), comment),
		"gif": g.Bytes(), "png": p.Bytes()} {
		took, err := Take(context.Background(), raw)
		require.NoError(t, err, name)
		assert.LessOrEqual(t, max(took.Width, took.Height), longestSide, name)
		again, err := Kept(context.Background(), took.Bytes)
		require.NoError(t, err, name)
		assert.Equal(t, took, again, name)
		assert.NotContains(t, string(took.Bytes), "harbour", name)
	}
}

// A preview is small whatever it shows: noise packs worst of all.
func TestAPreviewIsSmall(t *testing.T) {
	t.Parallel()
	noise := image.NewRGBA(image.Rect(0, 0, 1600, 1200))
	random := rand.NewChaCha8([32]byte{7})
	_, _ = random.Read(noise.Pix) // never fails
	for i := 3; i < len(noise.Pix); i += 4 {
		noise.Pix[i] = 255
	}
	for name, img := range map[string]image.Image{"noise": noise, "plain": corner(1600, 800), "tiny": corner(40, 20)} {
		small, err := Preview(context.Background(), jpegOf(t, img))
		require.NoError(t, err, name)
		assert.LessOrEqual(t, len(small), MaxPreview, name)
		config, err := jpeg.DecodeConfig(bytes.NewReader(small))
		require.NoError(t, err, name)
		assert.LessOrEqual(t, max(config.Width, config.Height), previewSide, name)
		b := img.Bounds()
		assert.InDelta(t, float64(b.Dx())/float64(b.Dy()), float64(config.Width)/float64(config.Height), 0.02, name)
	}
	_, err := Preview(context.Background(), []byte("no picture"))
	require.ErrorIs(t, err, ErrNotAPicture)
}

func TestKeptPicturesHaveNothingHidden(t *testing.T) {
	t.Parallel()
	took, err := Take(context.Background(), jpegOf(t, corner(40, 20)))
	require.NoError(t, err)
	var p bytes.Buffer
	require.NoError(t, png.Encode(&p, corner(40, 20)))
	for name, raw := range map[string][]byte{
		"place": with(took.Bytes, exif(1)), "comment": with(
			took.Bytes, []byte("\xff\xfe\x00\x06kai!"),
		), "tail": append(bytes.Clone(took.Bytes), "<script>"...),
		"tail with an end": append(bytes.Clone(took.Bytes), "<script>\xff\xd9"...), "png": p.Bytes(),
		"large": jpegOf(t, corner(1601, 20)),
	} {
		_, err := Kept(context.Background(), raw)
		assert.Error(t, err, name)
	}
}
