package httpapi

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"net/http"
	"time"

	"github.com/gofiber/fiber/v3"

	"handwerk/report"
	"handwerk/workshop"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
)

func (a rebuildDesk) recordEndpoints() []endpoint {
	return []endpoint{
		get(a.api, "/rebuilds/:id/record", "record", "the record in words", signedIn,
			func(c call, in rebuildIn) (paper.Record, error) {
				rec, _, err := a.recordOf(c, in.ID)
				return rec, err
			}),
		raw(a.api, http.MethodGet, "/rebuilds/:id/record.pdf", "recordPDF", "the printed record", "application/pdf",
			signedIn, a.recordPDF),
		giving(report.Layout{}, raw(
			a.api, http.MethodGet, "/rebuilds/:id"+archiveEnding, "archive",
			"the whole rebuild as an archive that another Handwerk can import", "application/json", signedIn, a.archive,
		)),
	}
}

// recordOf is a rebuild in words, with the last checkpoint of the log.
func (a rebuildDesk) recordOf(c call, id string) (paper.Record, record.Ledger, error) {
	l, err := a.Workshop.Ledger(c.Context(), id)
	if err != nil {
		return paper.Record{}, l, err
	}
	rec := paper.MakeRecord(l)
	checkpoint, err := a.Checkpoint(c.Context())
	rec.Checkpoint = checkpoint.Note
	return rec, l, err
}

func (a rebuildDesk) recordPDF(c call, in rebuildIn) error {
	rec, l, err := a.recordOf(c, in.ID)
	if err != nil {
		return err
	}
	shop, _, err := a.Accounts.Shop(c.Context())
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := report.WritePDF(&out, rec, a.Photos(c.Context(), in.ID), a.Zone(), shop); err != nil {
		return err
	}
	attached(c, l.Rebuild.Number, "application/pdf", "pdf")
	return c.Send(out.Bytes())
}

// archive streams: neither the pictures nor the text that they become are ever
// together in memory. Should the database go meanwhile, the file ends without
// its end, and no import takes it.
func (a rebuildDesk) archive(c call, in rebuildIn) error {
	l, err := a.Workshop.Ledger(c.Context(), in.ID)
	if err != nil {
		return err
	}
	attached(c, l.Rebuild.Number, "application/json", "json")
	conn := c.RequestCtx().Conn()
	return c.SendStreamWriter(func(w *bufio.Writer) {
		ctx, cancel := context.WithTimeout(context.Background(), archiveTime)
		defer cancel()
		photos := func(yield func(workshop.Photo, error) bool) {
			for p, err := range a.Photos(ctx, in.ID) {
				if err == nil {
					err = conn.SetWriteDeadline(time.Now().Add(writeTime)) // as long as it goes on
				}
				if !yield(p, err) {
					return
				}
			}
		}
		if err := report.WriteArchive(w, l, photos); err != nil {
			a.Log.Warn("an archive was cut off", "rebuild", l.Rebuild.Number, "error", err.Error())
			_ = conn.Close()
		}
	})
}

const (
	archiveTime   = 30 * time.Minute
	archiveEnding = "/archive.json"
)

// attached names a file by the rebuild's number.
func attached(c call, number, contentType, ending string) {
	attachedAs(c, "record-"+number, contentType, ending)
}

func attachedAs(c call, name, contentType, ending string) {
	c.Set(fiber.HeaderContentType, contentType)
	c.Set(fiber.HeaderContentDisposition, fmt.Sprintf(`attachment; filename="%s.%s"`, name, ending))
}
