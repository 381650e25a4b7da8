// Package instruments passes on what the bridge of a company reads: thermometers and meters, the
// scale at the mixing place, and the weather service.
package instruments

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"

	"nephelon/core/climate"
	"nephelon/core/job"
	"nephelon/core/measure"
	"nephelon/core/survey"
	"nephelon/exchange"
)

// Service answers what is asked of instruments.
type Service struct {
	api.Base
	store Store
}

// New returns the service.
func New(base api.Base, in Store) *Service { return &Service{Base: base, store: in} }

const (
	bridgeTimeout = 4 * time.Second
	bridgeLimit   = 1 << 20
	forecastHours = 72
)

// InstrumentLine is an instrument at hand.
type InstrumentLine struct {
	ID      string               `json:"id"`
	Name    string               `json:"name"`
	Reads   []survey.ReadingKind `json:"reads"`
	Battery float64              `json:"battery" doc:"Share left"`
}

// InstrumentReading holds what an instrument read just now.
type InstrumentReading struct {
	Instrument string            `json:"instrument"`
	At         time.Time         `json:"at"`
	Values     []InstrumentValue `json:"values"`
}

// ScaleReading holds what the scale shows.
type ScaleReading struct {
	At     time.Time    `json:"at"`
	Mass   measure.Mass `json:"mass" doc:"kg since it was last tared"`
	Stable bool         `json:"stable"`
}

// InstrumentValue is one number of a reading, in the units of the plan file.
type InstrumentValue struct {
	Kind  survey.ReadingKind `json:"kind"`
	Value float64            `json:"value"`
	Scale string             `json:"scale,omitempty"`
}

// Routes adds the operations.
func (s *Service) Routes() {
	api.Register(s.API, huma.Operation{OperationID: "rules", Summary: "List acceptance limits of the survey",
		Method: http.MethodGet, Path: "/api/rules",
		Description: "The thresholds of the survey with their sources"},
		func(context.Context, *struct{}) (*api.Body[[]survey.Rule], error) {
			return api.Answer(slices.SortedFunc(maps.Values(survey.Rules(nil)),
				func(a, b survey.Rule) int { return cmp.Compare(a.ID, b.ID) })), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "instruments", Summary: "List instruments", Method: http.MethodGet,
		Path: "/api/instruments"},
		func(ctx context.Context, _ *struct{}) (*api.Body[[]InstrumentLine], error) {
			lines := []InstrumentLine{}
			err := s.ask(ctx, http.MethodGet, "/instruments", &lines)
			if errors.Is(err, errNoBridge) {
				err = nil
			}
			return api.Answer(lines), err
		})
	api.Register(s.API, huma.Operation{OperationID: "readInstrument", Summary: "Take a reading from an instrument",
		Method: http.MethodPost,
		Path:   "/api/instruments/{instrument}/reading"},
		func(ctx context.Context, in *struct {
			Instrument string `path:"instrument" maxLength:"60"`
		}) (*api.Body[InstrumentReading], error) {
			taken := InstrumentReading{}
			err := s.ask(ctx, http.MethodGet, "/instruments/"+url.PathEscape(in.Instrument)+"/reading", &taken)
			return api.Answer(taken), err
		})
	api.Register(s.API, huma.Operation{OperationID: "weigh", Summary: "Read the scale", Method: http.MethodGet,
		Path:        "/api/scale",
		Description: "What the scale at the mixing place shows"},
		func(ctx context.Context, _ *struct{}) (*api.Body[ScaleReading], error) {
			shown := ScaleReading{}
			err := s.ask(ctx, http.MethodGet, "/scale", &shown)
			return api.Answer(shown), err
		})
	api.Register(s.API, huma.Operation{OperationID: "tare", Summary: "Tare the scale", Method: http.MethodPost,
		Path: "/api/scale/tared"},
		func(ctx context.Context, _ *struct{}) (*struct{}, error) {
			return nil, s.ask(ctx, http.MethodPut, "/scale/tare", new(any))
		})
	api.Register(s.API, huma.Operation{OperationID: "forecast", Summary: "Get the weather forecast",
		Method: http.MethodGet, Path: "/api/forecast"},
		func(ctx context.Context, in *struct {
			Climate   string  `query:"climate" maxLength:"60"`
			Latitude  float64 `query:"latitude" minimum:"-90" maximum:"90" doc:"° of the site; handed to the bridge where it is known"`
			Longitude float64 `query:"longitude" minimum:"-180" maximum:"180"`
		}) (*api.Body[job.Forecast], error) {
			var told struct {
				Place string         `json:"place"`
				Hours []climate.Hour `json:"hours"`
			}
			path := fmt.Sprintf("/weather?hours=%d&climate=%s", forecastHours, url.QueryEscape(in.Climate))
			if in.Latitude != 0 || in.Longitude != 0 {
				path += fmt.Sprintf("&latitude=%g&longitude=%g", in.Latitude, in.Longitude)
			}
			err := s.ask(ctx, http.MethodGet, path, &told)
			return api.Answer(job.Forecast{Place: told.Place, Told: time.Now().UTC(), Hours: told.Hours}), err
		})
	s.typedRoutes()
}

// TypedWeather is weather as somebody types it.
type TypedWeather struct {
	Days  []climate.Day    `json:"days" minItems:"1" maxItems:"14" doc:"Days that follow each other"`
	Where *job.Whereabouts `json:"where,omitempty" doc:"Coordinates of the site, for its sun"`
	Zone  string           `json:"zone,omitempty" maxLength:"60" doc:"IANA time zone of the site; UTC where left out"`
}

// ForecastRead is a forecast that was made of what somebody gave, with what was assumed.
type ForecastRead struct {
	Forecast job.Forecast `json:"forecast"`
	Notes    []string     `json:"notes"`
}

// assumedLatitude holds where the sun of a site without coordinates is taken from, °.
const assumedLatitude = 45

// weatherBytes limits a file of hours.
const weatherBytes = 1 << 20

// typedRoutes offer forecasts without a service: of typed days and of files. They store nothing.
func (s *Service) typedRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "typedForecast", Summary: "Make a forecast of typed days",
		Method: http.MethodPost, Path: "/api/forecast/typed",
		Description: "Hours of days that are given by their least and greatest temperature; stores nothing"},
		func(_ context.Context, in *api.Body[TypedWeather]) (*api.Body[ForecastRead], error) {
			zone, err := time.LoadLocation(in.Body.Zone)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity("The time zone is not known. Give its IANA name.",
					&huma.ErrorDetail{Location: "body.zone", Message: "is not known", Value: in.Body.Zone})
			}
			at, notes := climate.Site{Latitude: assumedLatitude, Zone: zone}, []string{}
			if where := in.Body.Where; where != nil {
				at.Latitude, at.Longitude = where.Latitude, &where.Longitude
			} else {
				notes = append(notes,
					fmt.Sprintf("The site has no coordinates: its sun is taken as at %d° north.", assumedLatitude))
			}
			hours, wrong, text := climate.Typed(in.Body.Days, at)
			if text != "" {
				return nil, huma.Error422UnprocessableEntity("The weather of a day cannot be.",
					&huma.ErrorDetail{Location: fmt.Sprintf("body.days[%d]", wrong), Message: text, Value: in.Body.Days[wrong].On})
			}
			return api.Answer(ForecastRead{job.Forecast{Place: "typed", Told: time.Now().UTC(), Hours: hours}, notes}), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "readForecast", Summary: "Read a forecast from a file",
		Method: http.MethodPost, Path: "/api/forecast/file", MaxBodyBytes: weatherBytes,
		Description: "Hours of weather as JSON or CSV; stores nothing"},
		func(_ context.Context, in *struct{ RawBody []byte }) (*api.Body[ForecastRead], error) {
			hours, notes, err := exchange.ReadWeather(in.RawBody)
			if wrong, ok := errors.AsType[*exchange.WeatherError](err); ok {
				return nil, huma.Error422UnprocessableEntity(fmt.Sprintf("Line %d: %s", wrong.Line, wrong.Text))
			}
			if err != nil {
				return nil, fmt.Errorf("read a forecast: %w", err)
			}
			return api.Answer(ForecastRead{job.Forecast{Place: "file", Told: time.Now().UTC(), Hours: hours},
				append([]string{}, notes...)}), nil
		})
}

var errNoBridge = huma.Error404NotFound(
	"No instruments and no weather service of your company are connected. Type the reading instead.")

// ask fetches from the bridge of the company. What the bridge says against it is passed on.
func (s *Service) ask(ctx context.Context, method, path string, into any) error {
	bridge, err := s.store.Bridge(ctx, api.Person(ctx).CompanyID)
	if err != nil {
		return s.Fail(ctx, "find the bridge", err)
	}
	if bridge == "" {
		return errNoBridge
	}
	limited, cancel := context.WithTimeout(ctx, bridgeTimeout)
	defer cancel()
	request, err := http.NewRequestWithContext(limited, method, bridge+path, nil)
	if err != nil {
		return s.Fail(ctx, "ask the bridge", err)
	}
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		s.Log.WarnContext(ctx, "the bridge does not answer", "error", err)
		return huma.Error502BadGateway("The instruments do not answer. Nothing was entered; try again, or type the reading.")
	}
	defer answer.Body.Close()
	content := json.NewDecoder(http.MaxBytesReader(nil, answer.Body, bridgeLimit))
	if answer.StatusCode != http.StatusOK {
		var refused struct {
			Error string `json:"error"`
		}
		if err := content.Decode(&refused); err != nil || refused.Error == "" {
			refused.Error = "The instruments answered in a way that is not understood."
		}
		return huma.Error502BadGateway(refused.Error + " Nothing was entered; try again, or type the reading.")
	}
	if err := content.Decode(into); err != nil {
		return huma.Error502BadGateway("The instruments answered in a way that is not understood. Type the reading instead.")
	}
	return nil
}
