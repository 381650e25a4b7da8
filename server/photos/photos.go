// Package photos offers the photographs of a job's surfaces. Each is drawn anew before it is
// kept, so that nothing of what a camera writes beside it remains.
package photos

import (
	"context"
	"errors"
	"fmt"
	_ "image/png" // phones send either
	"net/http"
	"sync"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/store"
)

// Service answers what is asked about photographs.
type Service struct {
	api.Base
	store   Store
	quota   api.Quota
	drawing chan struct{} // holds whoever draws a picture anew
	queues  queues        // of who waits for that
}

// New returns the service.
func New(base api.Base, in Store, quota api.Quota) *Service {
	return &Service{Base: base, store: in, quota: quota, drawing: make(chan struct{}, 1),
		queues: queues{all: make(map[uuid.UUID]*queue)}}
}

const (
	photoBytes  = 12 << 20  // of an upload
	photoMemory = 200 << 20 // that reading it may take
	photoEdge   = 20_000    // points along one side
	photoSide   = 2048      // of the stored picture
	thumbSide   = 320
	photoGrade  = 84 // of the JPEG
	bytesPerMB  = 1 << 20
)

// PhotoLine is a photograph of a surface in a list.
type PhotoLine struct {
	ID      uuid.UUID `json:"id" format:"uuid"`
	Surface string    `json:"surface"`
	Caption string    `json:"caption"`
	AddedBy string    `json:"addedBy"`
	AddedAt time.Time `json:"addedAt"`
}

// PhotoPath is the photograph an operation is about.
type PhotoPath struct {
	Photo uuid.UUID `path:"photo"`
}

// Picture is the bytes of a photograph.
type Picture struct {
	Type  string `header:"Content-Type"`
	Cache string `header:"Cache-Control"`
	Body  []byte
}

// Routes adds the operations.
func (s *Service) Routes() {
	api.Register(s.API, huma.Operation{OperationID: "photos", Summary: "List photographs of a job", Method: http.MethodGet,
		Path: "/api/jobs/{job}/photos"},
		s.listPhotos)
	api.Register(s.API, huma.Operation{OperationID: "addPhoto", Summary: "Add a photograph", Method: http.MethodPost,
		Path:         "/api/jobs/{job}/surfaces/{surface}/photos",
		MaxBodyBytes: 4 * photoBytes, Description: "Accepts a JPEG or PNG. It is encoded again, so that only the picture " +
			"is stored: no place, no camera, no time"}, s.addPhoto)
	api.Register(s.API, huma.Operation{OperationID: "photo", Summary: "Get a photograph", Method: http.MethodGet,
		Path: "/api/photos/{photo}/image"},
		func(ctx context.Context, in *PhotoPath) (*Picture, error) { return s.picture(ctx, in.Photo, false) })
	api.Register(s.API, huma.Operation{OperationID: "photoThumb", Summary: "Get a photograph's thumbnail",
		Method: http.MethodGet,
		Path:   "/api/photos/{photo}/thumb"},
		func(ctx context.Context, in *PhotoPath) (*Picture, error) { return s.picture(ctx, in.Photo, true) })
	api.Register(s.API, huma.Operation{OperationID: "captionPhoto", Summary: "Set a photograph's caption",
		Method: http.MethodPut,
		Path:   "/api/photos/{photo}/caption"},
		func(ctx context.Context, in *struct {
			PhotoPath
			Body struct {
				Caption string `json:"caption" maxLength:"300"`
			}
		}) (*struct{}, error) {
			if err := s.store.CaptionPhoto(ctx, api.Person(ctx).CompanyID, in.Photo, in.Body.Caption); err != nil {
				return nil, s.Fail(ctx, "caption photo", err)
			}
			return nil, nil
		})
	api.Register(s.API, huma.Operation{OperationID: "removePhoto", Summary: "Remove or restore a photograph",
		Method: http.MethodPut,
		Path:   "/api/photos/{photo}/removed"},
		func(ctx context.Context, in *struct {
			PhotoPath
			Body struct {
				Removed bool `json:"removed" doc:"False puts it back"`
			}
		}) (*struct{}, error) {
			p := api.Person(ctx)
			own := uuid.NullUUID{UUID: p.ID, Valid: p.Role == store.Lead} // who leads a day removes their own
			if err := s.store.RemovePhoto(ctx, p.CompanyID, in.Photo, in.Body.Removed, own); err != nil {
				return nil, s.Fail(ctx, "remove photo", err)
			}
			return nil, nil
		})
}

func (s *Service) listPhotos(ctx context.Context, in *api.JobPath) (*api.Body[[]PhotoLine], error) {
	found, err := s.store.Photos(ctx, api.Person(ctx).CompanyID, in.Job)
	if err != nil {
		return nil, s.Fail(ctx, "list photos", err)
	}
	lines := make([]PhotoLine, len(found))
	for i, f := range found {
		lines[i] = PhotoLine(f)
	}
	return api.Answer(lines), nil
}

func (s *Service) addPhoto(ctx context.Context, in *struct {
	api.JobPath
	Surface string    `path:"surface" maxLength:"60"`
	ID      uuid.UUID `query:"id" doc:"Made by the client, so that it can be sent again safely"`
	RawBody []byte
}) (*api.Body[[]PhotoLine], error) {
	if _, err := s.listPhotos(ctx, &in.JobPath); err != nil {
		return nil, err // there is no such job
	}
	// A picture takes memory: one at a time, and of each person one that waits for that.
	done, err := s.draws(ctx, api.Person(ctx).ID)
	if err != nil {
		return nil, err
	}
	defer done()
	full, thumb, err := Redrawn(in.RawBody)
	if err != nil {
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	if err := s.quota.Room(ctx, len(full)+len(thumb)); err != nil {
		return nil, err
	}
	p := api.Person(ctx)
	switch _, err := s.store.AddPhoto(ctx, p.CompanyID, p.ID, in.Job, in.ID, in.Surface, full, thumb); {
	case errors.Is(err, store.ErrTooManyPhotos):
		return nil, huma.Error422UnprocessableEntity("This job holds " + fmt.Sprint(store.MaxPhotos) +
			" photographs already; remove one first.")
	case err != nil:
		return nil, s.Fail(ctx, "add photo", err)
	}
	return s.listPhotos(ctx, &in.JobPath)
}

// draws waits for the turn of a person to have a picture drawn anew; done ends it. Others
// wait for at most one picture of a person before their own.
func (s *Service) draws(ctx context.Context, who uuid.UUID) (done func(), err error) {
	own := s.queues.of(who)
	defer func() {
		if err != nil {
			s.queues.leave(who)
		}
	}()
	for n, turn := range []chan struct{}{own, s.drawing} {
		select {
		case turn <- struct{}{}:
		case <-ctx.Done():
			if n > 0 {
				<-own
			}
			return nil, s.Fail(ctx, "wait to draw a picture", ctx.Err())
		}
	}
	return func() {
		<-s.drawing
		<-own
		s.queues.leave(who)
	}, nil
}

// queues hold people who wait because they have more than one picture to be drawn.
type queues struct {
	mutex sync.Mutex
	all   map[uuid.UUID]*queue
}

type queue struct {
	turn  chan struct{}
	count int
}

// of joins the queue of a person.
func (q *queues) of(who uuid.UUID) chan struct{} {
	q.mutex.Lock()
	defer q.mutex.Unlock()
	if q.all[who] == nil {
		q.all[who] = &queue{turn: make(chan struct{}, 1)}
	}
	q.all[who].count++
	return q.all[who].turn
}

func (q *queues) leave(who uuid.UUID) {
	q.mutex.Lock()
	defer q.mutex.Unlock()
	if q.all[who].count--; q.all[who].count == 0 {
		delete(q.all, who)
	}
}

func (s *Service) picture(ctx context.Context, id uuid.UUID, small bool) (*Picture, error) {
	jpeg, err := s.store.PhotoImage(ctx, api.Person(ctx).CompanyID, id, small)
	if err != nil {
		return nil, s.Fail(ctx, "read photo", err)
	}
	return &Picture{Type: "image/jpeg", Cache: "private, max-age=86400", Body: jpeg}, nil
}
