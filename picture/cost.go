package picture

import (
	"bytes"
	"image"
	"image/color"
)

// maxCost is the most memory that opening a picture may take, in bytes: a
// phone's 24 million dots, or a screen of 20 million with four bytes a dot.
const maxCost = 80 << 20

// head is what is known of a picture before it is opened.
type head struct {
	format string
	cost   int // bytes it takes when it is open
}

// look reads the head of a picture, and refuses what is none or takes too much.
func look(raw []byte) (head, error) {
	config, format, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || config.Width < 1 || config.Height < 1 {
		return head{}, ErrNotAPicture
	}
	if config.Width > MaxSide || config.Height > MaxSide || config.Width*config.Height > MaxPixels {
		return head{}, ErrTooLarge
	}
	h := head{format, int(float64(config.Width*config.Height) * perDot(raw, format, config.ColorModel))}
	if h.cost > maxCost {
		return head{}, ErrTooLarge
	}
	return h, nil
}

// perDot is how many bytes a dot takes while the decoders of Go's image
// packages work on it.
func perDot(raw []byte, format string, model color.Model) float64 {
	switch format {
	case "jpeg":
		return perDotJPEG(raw)
	case "webp":
		if model == color.YCbCrModel {
			return 1.5
		}
		return 8 // lossless: its dots, and those before the last transform
	case "png":
		const interlace = 28 // its place in the head (W3C PNG 11.2.2)
		if len(raw) > interlace && raw[interlace] == 1 {
			return 2 * depth(model)
		}
	}
	return depth(model)
}

func depth(model color.Model) float64 {
	switch model {
	case color.GrayModel, color.AlphaModel:
		return 1
	case color.Gray16Model, color.Alpha16Model:
		return 2
	case color.RGBA64Model, color.NRGBA64Model:
		return 8
	}
	if _, ok := model.(color.Palette); ok {
		return 1
	}
	return 4
}

// perDotJPEG adds up what each component is sampled by in the frame header
// (ITU-T T.81, B.2.2); a progressive one holds its coefficients too, four bytes
// each.
func perDotJPEG(raw []byte) float64 {
	const sof0, sof2, sos = 0xC0, 0xC2, 0xDA
	worst := 3 * 5.0
	for at := 2; at+4 < len(raw) && raw[at] == 0xFF; {
		marker, size := raw[at+1], int(raw[at+2])<<8|int(raw[at+3])
		if marker >= sof0 && marker <= sof2 {
			return sampled(raw[at+4:min(at+2+size, len(raw))], marker == sof2, worst)
		}
		if marker == sos || size < 2 {
			return worst
		}
		at += 2 + size
	}
	return worst
}

func sampled(frame []byte, progressive bool, worst float64) float64 {
	const before = 6 // precision, height, width, number of components
	if len(frame) < before || len(frame) < before+3*int(frame[5]) {
		return worst
	}
	sum, most := 0, 1
	for c := range int(frame[5]) {
		by := frame[before+3*c+1]
		n := int(by>>4) * int(by&0xF)
		sum, most = sum+n, max(most, n)
	}
	if progressive {
		sum *= 5
	}
	return float64(sum) / float64(most)
}
