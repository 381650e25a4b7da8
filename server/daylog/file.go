package daylog

import (
	"bytes"
	"context"
	"fmt"
	"time"

	"nephelon/server/api"

	"github.com/google/uuid"

	"nephelon/exchange"
)

// RecordFileQuestion says what of a record is written, and as what.
type RecordFileQuestion struct {
	api.JobPath
	As     string      `query:"as" enum:"json,csv,xlsx,pdf,ics" default:"json"`
	Kept   string      `query:"kept" maxLength:"300" doc:"Touch-up stock that is kept, and where, for the hand-over"`
	Photos []uuid.UUID `query:"photos" maxItems:"12" doc:"Photographs in the hand-over"`
}

// recordFile writes the record of a job.
func (s *Service) recordFile(ctx context.Context, in *RecordFileQuestion) (*api.Download, error) {
	issue, _, day, err := s.recorded(ctx, in.Job)
	if err != nil {
		return nil, err
	}
	zone, err := time.LoadLocation(issue.Zone)
	if err != nil {
		zone = time.UTC
	}
	p := api.Person(ctx)
	var text bytes.Buffer
	kind, name := "application/json", fmt.Sprintf("%s, record.json", issue.Name)
	switch in.As {
	case "csv":
		kind, name = "text/csv; charset=utf-8", issue.Name+", batches.csv"
		err = exchange.WriteRecordTable(&text, issue, day, zone)
	case "xlsx":
		kind, name = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", issue.Name+", record.xlsx"
		err = exchange.WriteRecordBook(&text, issue, day, zone)
	case "pdf":
		kind, name = "application/pdf", issue.Name+", hand-over.pdf"
		h := exchange.Handover{Company: p.Company, Issue: issue, Day: day, Kept: in.Kept, Units: p.Units, Zone: zone}
		if err := s.handed(ctx, in, &h); err != nil {
			return nil, err
		}
		err = exchange.WriteHandover(&text, h)
	case "ics":
		from := time.Now()
		if day.Signed != nil {
			from = day.Signed.At
		}
		kind, name = "text/calendar; charset=utf-8", issue.Name+", upkeep.ics"
		err = exchange.WriteUpkeep(&text, issue, from.In(zone))
	default:
		kept, failed := s.store.Documents(ctx, p.CompanyID, in.Job)
		if failed != nil {
			return nil, s.Fail(ctx, "read the record", failed)
		}
		err = exchange.WriteRecord(&text, kept.Plans, kept.Events, day, kept.Log)
	}
	if err != nil {
		return nil, s.Fail(ctx, "write the record", err)
	}
	return api.Attached(kind, name, text.Bytes()), nil
}

// handed puts the client and the photographs chosen into a hand-over.
func (s *Service) handed(ctx context.Context, in *RecordFileQuestion, h *exchange.Handover) error {
	p := api.Person(ctx)
	j, err := s.store.Job(ctx, p.CompanyID, in.Job)
	if err != nil {
		return s.Fail(ctx, "read job", err)
	}
	h.Client = j.File.Job.Client
	captions := make(map[uuid.UUID]string)
	photos, err := s.store.Photos(ctx, p.CompanyID, in.Job)
	if err != nil {
		return s.Fail(ctx, "list photos", err)
	}
	for _, f := range photos {
		captions[f.ID] = f.Caption
	}
	for _, id := range in.Photos {
		if _, here := captions[id]; !here {
			continue
		}
		picture, err := s.store.PhotoImage(ctx, p.CompanyID, id, false)
		if err != nil {
			return s.Fail(ctx, "read photo", err)
		}
		h.Photos = append(h.Photos, exchange.HandoverPhoto{Caption: captions[id], JPEG: picture})
	}
	return nil
}
