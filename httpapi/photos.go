package httpapi

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"image"
	_ "image/gif" // decoders for what cameras and screens produce
	"image/jpeg"
	_ "image/png"
	"net/http"
	"strings"

	"github.com/disintegration/imaging"
	"github.com/gofiber/fiber/v3"
	_ "golang.org/x/image/webp"

	"handwerk/workshop"
)

const (
	maxPixels   = 60_000_000 // a decompression bomb has more
	longestSide = 1600
	jpegQuality = 82
)

// PhotoView tells the id under which a picture was kept.
type PhotoView struct {
	ID     string `json:"id"`
	Width  int    `json:"width"`
	Height int    `json:"height"`
}

type photoIn struct {
	ID string `path:"id"`
}

func (a *api) photoEndpoints() []endpoint {
	return []endpoint{
		post(a, "/rebuilds/:id/photos", "takePhoto", "keep a picture (body: image/jpeg, image/png or image/webp, up to 12 MB)", signedIn, http.StatusCreated, a.takePhoto),
		raw(a, http.MethodGet, "/photos/:id", "photo", "a picture", "image/jpeg", signedIn, a.photo),
	}
}

func (a *api) takePhoto(c call, in rebuildIn) (PhotoView, error) {
	p, err := reencode(c.Body())
	if err != nil {
		return PhotoView{}, err
	}
	p.Rebuild = in.ID
	p, err = a.Workshop.KeepPhoto(c.Context(), p, c.person())
	return PhotoView{p.ID, p.Width, p.Height}, err
}

func (a *api) photo(c call, in photoIn) error {
	p, err := a.Workshop.Photo(c.Context(), in.ID)
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, p.Type)
	c.Set(fiber.HeaderCacheControl, "private, max-age=31536000, immutable")
	return c.Send(p.Bytes)
}

// reencode reads a picture by its content, whatever it claims to be, turns it
// upright, makes it no larger than a bench needs, and writes a fresh JPEG:
// place, camera and anything hidden in the file stay behind.
func reencode(raw []byte) (workshop.Photo, error) {
	notAPicture := problem(http.StatusUnsupportedMediaType, "Not a picture", "The file is not a JPEG, PNG, GIF or WebP picture, whatever its name says.")
	config, _, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil {
		return workshop.Photo{}, notAPicture
	}
	if config.Width < 1 || config.Height < 1 || config.Width > maxPixels/config.Height {
		return workshop.Photo{}, problem(http.StatusRequestEntityTooLarge, "Too large", "The picture has more than 60 million dots. Take it smaller.")
	}
	picture, err := imaging.Decode(bytes.NewReader(raw), imaging.AutoOrientation(true))
	if err != nil {
		if strings.Contains(err.Error(), "unexpected EOF") {
			notAPicture.Detail = "The picture is cut off. Send it again."
		}
		return workshop.Photo{}, notAPicture
	}
	if b := picture.Bounds(); b.Dx() > longestSide || b.Dy() > longestSide {
		picture = imaging.Fit(picture, longestSide, longestSide, imaging.CatmullRom)
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, picture, &jpeg.Options{Quality: jpegQuality}); err != nil {
		return workshop.Photo{}, err
	}
	sum := sha256.Sum256(out.Bytes())
	return workshop.Photo{
		SHA256: hex.EncodeToString(sum[:]), Type: "image/jpeg", Bytes: out.Bytes(),
		Width: picture.Bounds().Dx(), Height: picture.Bounds().Dy(),
	}, nil
}
