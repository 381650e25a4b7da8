// Package photos offers the photographs of a job's surfaces. Each is drawn anew before it is
// kept, so that nothing of what a camera writes beside it remains.
package photos

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png" // phones send either
	"net/http"
	"strings"
	"sync"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/disintegration/imaging"
	"github.com/google/uuid"

	"nephelon/store"
)

// Quota refuses, with an error for the caller, what would not fit into what a company may keep.
type Quota interface {
	Room(ctx context.Context, more int) error
}

// Service answers what is asked about photographs.
type Service struct {
	api.Base
	store   Store
	quota   Quota
	drawing chan struct{} // holds whoever draws a picture anew
	queues  queues        // of who waits for that
}

// New returns the service.
func New(base api.Base, in Store, quota Quota) *Service {
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
		MaxBodyBytes: 4 * photoBytes, Description: "Takes a JPEG or PNG. It is drawn anew, so that nothing is kept but the " +
			"picture: no place, no camera, no time"}, s.addPhoto)
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

// Redrawn checks an uploaded picture and draws it anew, upright and no larger
// than needed, with a small copy. What a camera writes beside the picture, its
// place above all, is left behind.
func Redrawn(upload []byte) (full, thumb []byte, err error) {
	if len(upload) > photoBytes {
		return nil, nil, fmt.Errorf("the photograph has %.0f MB; at most %d MB are taken. Send it in a smaller size",
			float64(len(upload))/bytesPerMB, photoBytes/bytesPerMB)
	}
	config, kind, err := image.DecodeConfig(bytes.NewReader(upload))
	if err != nil {
		return nil, nil, errors.New("this file is neither a JPEG nor a PNG picture. Save it as one of the two")
	}
	if kind != "jpeg" && kind != "png" {
		return nil, nil, fmt.Errorf("this is a %s picture. Save it as JPEG or PNG", strings.ToUpper(kind))
	}
	if config.Width > photoEdge || config.Height > photoEdge || photoTakes(kind, config) > photoMemory {
		return nil, nil, fmt.Errorf("the picture is %d by %d points, too large to read. Send it in a smaller size",
			config.Width, config.Height)
	}
	picture, err := imaging.Decode(bytes.NewReader(upload), imaging.AutoOrientation(true))
	if err != nil {
		return nil, nil, fmt.Errorf("the %s picture breaks off or is damaged. Send it again", kind)
	}
	if full, err = drawn(picture, photoSide); err != nil {
		return nil, nil, err
	}
	thumb, err = drawn(picture, thumbSide)
	return full, thumb, err
}

// photoTakes returns how many bytes it takes to read a picture, to turn it upright and to
// draw it in the stored size.
func photoTakes(kind string, config image.Config) int {
	each := 4.0 // bytes a point, as read and as turned
	switch config.ColorModel {
	case color.RGBA64Model, color.NRGBA64Model:
		each = 8
	case color.Gray16Model:
		each = 2
	case color.GrayModel:
		each = 1
	}
	if kind == "jpeg" { // only they say how the camera was held
		each += 4
		if config.ColorModel == color.YCbCrModel {
			each = 3 + 4
		}
	}
	const drawn = 4
	return int(each*float64(config.Width)*float64(config.Height)) + drawn*min(photoSide, config.Width)*config.Height
}

func drawn(picture image.Image, side int) ([]byte, error) {
	var out bytes.Buffer
	if err := jpeg.Encode(&out, imaging.Fit(picture, side, side, imaging.CatmullRom),
		&jpeg.Options{Quality: photoGrade}); err != nil {
		return nil, fmt.Errorf("draw the picture anew: %w", err)
	}
	return out.Bytes(), nil
}
