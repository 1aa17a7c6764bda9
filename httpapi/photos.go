package httpapi

import (
	"errors"
	"net/http"
	"slices"

	"github.com/gofiber/fiber/v3"

	"handwerk/picture"
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

func (a rebuildDesk) photoEndpoints() []endpoint {
	return []endpoint{
		typed(a.api, endpoint{
			method: http.MethodPost, path: "/rebuilds/:id/photos", id: "takePhoto",
			summary: "keep a picture, up to 12 MB", access: hands, status: http.StatusCreated,
			takes: []string{"image/jpeg", "image/png", "image/webp", "image/gif"},
		}, a.takePhoto),
		raw(a.api, http.MethodGet, "/photos/:id", "photo", "a picture", "image/jpeg", signedIn, a.photo),
		raw(
			a.api, http.MethodGet, "/photos/:id/preview", "photoPreview",
			"a picture, small enough for a row in a list: under 30 kB", "image/jpeg", signedIn, a.preview,
		),
	}
}

// takePhoto reads the picture when everything else about the request is known
// to be right, and few of them at a time.
func (a rebuildDesk) takePhoto(c call, in rebuildIn) (PhotoView, error) {
	if c.Request().Header.ContentLength() > picture.MaxBytes {
		return PhotoView{}, tooLarge(picture.MaxBytes)
	}
	if err := a.Workshop.Exists(c.Context(), in.ID); err != nil {
		return PhotoView{}, err
	}
	select {
	case a.uploads <- struct{}{}:
		defer func() { <-a.uploads }()
	case <-c.Context().Done():
		return PhotoView{}, problem(http.StatusServiceUnavailable, "Too many pictures at once",
			"Several pictures are being sent. Try again in a moment.")
	}
	sent, err := body(c, picture.MaxBytes)
	if err != nil {
		return PhotoView{}, err
	}
	// The picture may have taken its time to come, and waits its turn now.
	waiting, leave := anew(uploadTime)
	defer leave()
	go endWhenGone(waiting, c.RequestCtx().Conn(), leave)
	taken, err := picture.Take(waiting, sent)
	if err != nil {
		return PhotoView{}, pictureProblem(err)
	}
	ctx, cancel := anew(requestTime)
	defer cancel()
	p, err := a.Workshop.KeepPhoto(ctx, in.ID, taken, c.Get("Idempotency-Key"), c.person())
	return PhotoView{p.ID, p.Width, p.Height}, err
}

func pictureProblem(err error) error {
	switch {
	case errors.Is(err, picture.ErrTooLarge):
		return problem(http.StatusRequestEntityTooLarge, "Too large", sentence(err))
	case errors.Is(err, picture.ErrNotAPicture), errors.Is(err, picture.ErrCutOff):
		return problem(http.StatusUnsupportedMediaType, "Not a picture", sentence(err))
	}
	return err
}

// shown are the types that a browser shows and runs nothing of.
var shown = []string{"image/jpeg", "image/png", "image/webp", "image/gif"}

// photo serves a picture as what it is. Outside our own pages it is a file to
// be saved, and if it were something else it would run nothing.
// previews remembers the last few hundred: a page of sixty is read again and again.
const previews = 300

// preview is a picture small enough for a row in a list.
func (a rebuildDesk) preview(c call, in photoIn) error {
	small, ok := a.previews.Get(in.ID)
	if !ok {
		p, err := a.Workshop.Photo(c.Context(), in.ID)
		if err != nil {
			return err
		}
		if small, err = picture.Preview(c.Context(), p.Bytes); err != nil {
			return problem(http.StatusNotFound, "Not here", "This picture has no preview.")
		}
		a.previews.Add(in.ID, small)
	}
	c.Set(fiber.HeaderContentType, "image/jpeg")
	c.Set(fiber.HeaderContentDisposition, `attachment; filename="preview.jpg"`)
	c.Set(fiber.HeaderContentSecurityPolicy, "default-src 'none'; sandbox")
	c.Set(fiber.HeaderCacheControl, "private, max-age=31536000, immutable")
	return c.Send(small)
}

func (a rebuildDesk) photo(c call, in photoIn) error {
	p, err := a.Workshop.Photo(c.Context(), in.ID)
	if err != nil {
		return err
	}
	kind, name := p.Type, "picture.jpg"
	if !slices.Contains(shown, kind) {
		kind, name = fiber.MIMEOctetStream, "picture.bin"
	}
	c.Set(fiber.HeaderContentType, kind)
	c.Set(fiber.HeaderContentDisposition, `attachment; filename="`+name+`"`)
	c.Set(fiber.HeaderContentSecurityPolicy, "default-src 'none'; sandbox")
	c.Set(fiber.HeaderCacheControl, "private, max-age=31536000, immutable")
	return c.Send(p.Bytes)
}
