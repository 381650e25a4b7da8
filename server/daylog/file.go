package daylog

import (
	"bytes"
	"context"
	"fmt"
	"time"

	"nephelon/server/api"

	"github.com/google/uuid"

	"nephelon/core/record"
	"nephelon/exchange"
)

// RecordFileQuestion says what of a record is written, and as what.
type RecordFileQuestion struct {
	api.JobPath
	As     string      `query:"as" enum:"json,csv,xlsx,pdf,ics" default:"json" doc:"csv is a zip with one table for each kind of entry"`
	Short  bool        `query:"short" doc:"Only what a client needs, of the hand-over"`
	Letter bool        `query:"letter" doc:"The hand-over on paper of 8.5 by 11 in; else A4"`
	Roles  bool        `query:"roles" doc:"Roles instead of the names of people, in the hand-over"`
	Kept   string      `query:"kept" maxLength:"300" doc:"Touch-up stock that is kept, and where, for the hand-over"`
	Photos []uuid.UUID `query:"photos" maxItems:"12" doc:"Photographs in the hand-over"`
}

// recordFile writes the record of a job.
func (s *Service) recordFile(ctx context.Context, in *RecordFileQuestion) (*api.Download, error) {
	issue, events, day, err := s.recorded(ctx, in.Job)
	if err != nil {
		return nil, err
	}
	at := time.Now()
	if day.Signed != nil { // what was handed over stays as it was then, but for what was added
		at = day.Signed.At
		for n := range events {
			if came := events[n].Received; came != nil && came.After(at) {
				at = *came
			}
		}
		day = record.TellerWith(s.lives).Tell(&issue, events, at, api.Person(ctx).Units)
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
		kind, name = "application/zip", issue.Name+", record tables.zip"
		err = exchange.WriteRecordTables(&text, issue, events, day, zone)
	case "xlsx":
		kind, name = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", issue.Name+", record.xlsx"
		err = exchange.WriteRecordBook(&text, issue, events, day, zone)
	case "pdf":
		kind, name = "application/pdf", issue.Name+", hand-over.pdf"
		h := exchange.Handover{Company: p.Company, Issue: issue, Day: day, Kept: in.Kept, Units: p.Units, Zone: zone,
			Full: !in.Short, Letter: in.Letter, At: at}
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
	kept, err := s.store.Documents(ctx, p.CompanyID, in.Job)
	if err != nil {
		return s.Fail(ctx, "read the log of the record", err)
	}
	h.Log = kept.Log
	if in.Roles {
		people, err := s.store.People(ctx, p.CompanyID)
		if err != nil {
			return s.Fail(ctx, "list people", err)
		}
		h.Known = make(map[string]string, len(people))
		for _, one := range people {
			h.Known[one.Name] = fmt.Sprintf("%s %s", one.Role, one.ID.String()[32:])
		}
	}
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
