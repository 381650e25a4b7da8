package calculators

import (
	"context"
	"errors"
	"net/http"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/geometry"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/takeoff"
	"nephelon/exchange/drawing"
)

// Understood holds how a typed quantity was understood.
type Understood struct {
	SI   float64 `json:"si"`
	Echo string  `json:"echo" doc:"The same in the person's units"`
}

// Measured holds what a drawing encloses so far, or why it encloses nothing.
type Measured struct {
	Area      measure.Area   `json:"area" doc:"m²"`
	Perimeter measure.Length `json:"perimeter" doc:"m"`
	Fault     string         `json:"fault,omitempty"`
}

// Walked holds how a typed walk was understood.
type Walked struct {
	Legs    []takeoff.Leg `json:"legs"`
	Heading measure.Angle `json:"heading" doc:"Heading of the next wall"`
	Closes  bool          `json:"closes" doc:"A whole rectangle was typed: its fourth wall closes it"`
}

// measureRoutes help while something is being typed or drawn; they keep nothing.
func (s *Service) measureRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "read", Summary: "Read a typed quantity", Method: http.MethodPost,
		Path:        "/api/read",
		Description: "Parses a quantity with its unit, as people write it"},
		func(ctx context.Context, in *api.Body[struct {
			Kind measure.Kind `json:"kind" enum:"length,area,film,volume,mass,density,spread,coverage,pace,mass-rate,span,fraction,angle,temperature,emission,pressure,number,content,viscosity"`
			Text string       `json:"text" maxLength:"200"`
		}]) (*api.Body[Understood], error) {
			units := api.Person(ctx).Units
			si, err := units.Read(in.Body.Kind, in.Body.Text)
			var refused *measure.ReadError
			if errors.As(err, &refused) {
				return nil, huma.Error422UnprocessableEntity(refused.Error())
			}
			return api.Answer(Understood{si, units.Format(in.Body.Kind, si)}), err
		})
	api.Register(s.API, huma.Operation{OperationID: "measure", Summary: "Measure a floor outline", Method: http.MethodPost,
		Path:         "/api/measure",
		MaxBodyBytes: api.BodyLimit,
		Description:  "Measures an outline that is still being drawn"},
		func(ctx context.Context, in *api.Body[takeoff.Floor]) (*api.Body[Measured], error) {
			t, _, found := takeoff.Measure(takeoff.Shape{Floor: in.Body}, "", api.Person(ctx).Units)
			if t == nil {
				return api.Answer(Measured{Fault: found[0].Text}), nil
			}
			return api.Answer(Measured{Area: t.Area, Perimeter: t.Perimeter}), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "reshape", Summary: "Change the shape of a floor",
		Method: http.MethodPost, Path: "/api/reshape",
		MaxBodyBytes: api.BodyLimit,
		Description:  "Changes the plan of a floor: a wall's length, a bay, mirrored or turned; stores nothing"},
		func(_ context.Context, in *api.Body[struct {
			Surface job.Surface `json:"surface"`
			Change  job.Reshape `json:"change"`
		}]) (*api.Body[job.Surface], error) {
			changed, err := in.Body.Surface.Reshaped(in.Body.Change)
			if refused, ok := errors.AsType[*geometry.ReshapeError](err); ok {
				return nil, huma.Error422UnprocessableEntity(refused.Error())
			}
			return api.Answer(changed), err
		})
	api.Register(s.API, huma.Operation{OperationID: "part", Summary: "Divide a floor along a wall",
		Method: http.MethodPost, Path: "/api/part",
		MaxBodyBytes: api.BodyLimit,
		Description: "Divides a floor along a wall, so that one side stays passable while the other is laid; stores " +
			"nothing"},
		func(_ context.Context, in *api.Body[struct {
			Surface job.Surface    `json:"surface"`
			Wall    int            `json:"wall" minimum:"1" maximum:"20000"`
			Width   measure.Length `json:"width" exclusiveMinimum:"0" maximum:"1000" doc:"m that stay passable along the wall"`
		}]) (*api.Body[job.Parted], error) {
			parted, err := in.Body.Surface.Parted(in.Body.Wall, in.Body.Width)
			if refused, ok := errors.AsType[*geometry.ReshapeError](err); ok {
				return nil, huma.Error422UnprocessableEntity(refused.Error())
			}
			return api.Answer(parted), err
		})
	api.Register(s.API, huma.Operation{OperationID: "readDrawing", Summary: "Read outlines from a drawing",
		Method: http.MethodPost, Path: "/api/drawing",
		MaxBodyBytes: drawing.MaxBytes + 1<<20,
		Description:  "Finds the closed outlines of a DXF, GeoJSON or SVG drawing"},
		func(_ context.Context, in *struct{ RawBody []byte }) (*api.Body[drawing.Drawing], error) {
			d, err := drawing.Read(in.RawBody)
			var refused *drawing.RefusedError
			if errors.As(err, &refused) {
				return nil, huma.Error422UnprocessableEntity(refused.Text)
			}
			return api.Answer(d), err
		})
	s.walkRoutes()
}

// walkRoutes follow a walk along walls while it is typed.
func (s *Service) walkRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "readWalk", Summary: "Read a walk along the walls",
		Method: http.MethodPost, Path: "/api/walk/read",
		Description: "Parses wall lengths and turns, as people write them"},
		func(ctx context.Context, in *api.Body[struct {
			Text    string        `json:"text" maxLength:"20000"`
			Heading measure.Angle `json:"heading" doc:"Heading of the first wall"`
			Before  *takeoff.Leg  `json:"before,omitempty" doc:"The wall before the first"`
		}]) (*api.Body[Walked], error) {
			legs, heading, err := takeoff.ReadWalk(in.Body.Text, in.Body.Heading, in.Body.Before, api.Person(ctx).Units)
			var refused *takeoff.WalkError
			if errors.As(err, &refused) {
				return nil, huma.Error422UnprocessableEntity(refused.Error())
			}
			if legs == nil {
				legs = []takeoff.Leg{}
			}
			return api.Answer(Walked{legs, heading, takeoff.Rectangle(in.Body.Text) != nil}), err
		})
	api.Register(s.API, huma.Operation{OperationID: "checkWalk", Summary: "Check the closure of a walk",
		Method: http.MethodPost, Path: "/api/walk/check",
		Description: "Reports the closing error of a walk and the misreadings that would explain it"},
		func(ctx context.Context, in *api.Body[struct {
			Corners geometry.Ring `json:"corners" minItems:"3" maxItems:"2000"`
		}]) (*api.Body[takeoff.Closure], error) {
			return api.Answer(takeoff.CheckWalk(in.Body.Corners, api.Person(ctx).Units)), nil
		})
}
