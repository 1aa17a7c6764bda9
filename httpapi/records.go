package httpapi

import (
	"bytes"
	"fmt"
	"net/http"

	"github.com/gofiber/fiber/v3"

	"handwerk/report"
	"handwerk/workshop"
)

func (a *api) recordEndpoints() []endpoint {
	return []endpoint{
		get(a, "/rebuilds/:id/record", "record", "the record in words", signedIn, func(c call, in rebuildIn) (workshop.Record, error) {
			l, err := a.Workshop.Ledger(c.Context(), in.ID)
			if err != nil {
				return workshop.Record{}, err
			}
			return workshop.MakeRecord(l), nil
		}),
		raw(a, http.MethodGet, "/rebuilds/:id/record.pdf", "recordPDF", "the printed record", "application/pdf", signedIn, a.recordPDF),
		raw(a, http.MethodGet, "/rebuilds/:id/archive.json", "archive", "the whole rebuild as an archive that another Handwerk can import", "application/json", signedIn, a.archive),
	}
}

func (a *api) recordPDF(c call, in rebuildIn) error {
	return a.file(c, in.ID, "application/pdf", "pdf", func(out *bytes.Buffer, l workshop.Ledger, photos []workshop.Photo) error {
		return report.WritePDF(out, workshop.MakeRecord(l), photos)
	})
}

func (a *api) archive(c call, in rebuildIn) error {
	return a.file(c, in.ID, "application/json", "json", func(out *bytes.Buffer, l workshop.Ledger, photos []workshop.Photo) error {
		return report.WriteArchive(out, l, photos)
	})
}

// file sends a rebuild in one of its written forms, named by its number.
func (a *api) file(c call, id, contentType, ending string, write func(*bytes.Buffer, workshop.Ledger, []workshop.Photo) error) error {
	l, err := a.Workshop.Ledger(c.Context(), id)
	if err != nil {
		return err
	}
	photos, err := a.Photos(c.Context(), id)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := write(&out, l, photos); err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, contentType)
	c.Set(fiber.HeaderContentDisposition, fmt.Sprintf(`attachment; filename="record-%s.%s"`, l.Rebuild.Number, ending))
	return c.Send(out.Bytes())
}
