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
			Climate string `query:"climate" maxLength:"60"`
		}) (*api.Body[job.Forecast], error) {
			var told struct {
				Place string         `json:"place"`
				Hours []climate.Hour `json:"hours"`
			}
			err := s.ask(ctx, http.MethodGet, fmt.Sprintf("/weather?hours=%d&climate=%s", forecastHours,
				url.QueryEscape(in.Climate)), &told)
			return api.Answer(job.Forecast{Place: told.Place, Told: time.Now().UTC(), Hours: told.Hours}), err
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
