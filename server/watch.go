package server

import (
	"context"
	"crypto/rand"
	"database/sql"
	"log/slog"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// requestKey holds the number of a request in its context.
type requestKey struct{}

const requestHeader = "X-Request-Id"

// numbered gives each request a number of its own, which its answer carries and every line
// that is logged about it.
func numbered(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id := rand.Text()[:12]
		w.Header().Set(requestHeader, id)
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), requestKey{}, id)))
	})
}

// Numbering writes the number of the request to each line that is about one.
type Numbering struct{ slog.Handler }

// Handle writes a line.
func (n Numbering) Handle(ctx context.Context, line slog.Record) error {
	if id, is := ctx.Value(requestKey{}).(string); is {
		line.AddAttrs(slog.String("request", id))
	}
	return n.Handler.Handle(ctx, line)
}

// WithAttrs keeps the numbering.
func (n Numbering) WithAttrs(attrs []slog.Attr) slog.Handler {
	return Numbering{n.Handler.WithAttrs(attrs)}
}

// WithGroup keeps the numbering.
func (n Numbering) WithGroup(name string) slog.Handler { return Numbering{n.Handler.WithGroup(name)} }

// gauges holds what is measured of a server while it runs.
type gauges struct {
	registry *prometheus.Registry
	took     *prometheus.HistogramVec
	open     prometheus.Gauge
	events   prometheus.Counter
	faults   prometheus.Gauge
	proven   prometheus.Gauge
}

func newGauges(db *sql.DB) *gauges {
	g := &gauges{
		registry: prometheus.NewRegistry(),
		took: prometheus.NewHistogramVec(prometheus.HistogramOpts{
			Name: "nephelon_request_seconds", Help: "Time from a request to its answer, streams apart.",
			Buckets: []float64{.005, .01, .025, .05, .1, .25, .5, 1, 2.5, 10, 30},
		}, []string{"operation", "status"}),
		open: prometheus.NewGauge(prometheus.GaugeOpts{Name: "nephelon_requests_open",
			Help: "Requests under way, streams among them."}),
		events: prometheus.NewCounter(prometheus.CounterOpts{Name: "nephelon_events_logged_total",
			Help: "Events of job days that were taken."}),
	}
	g.faults = prometheus.NewGauge(prometheus.GaugeOpts{Name: "nephelon_record_faults",
		Help: "What did not fit the logs of records in the last nightly check."})
	g.proven = prometheus.NewGauge(prometheus.GaugeOpts{Name: "nephelon_records_checked_timestamp_seconds",
		Help: "When records were last checked against their logs."})
	g.registry.MustRegister(g.took, g.open, g.events, g.faults, g.proven, collectors.NewGoCollector(),
		collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}))
	if db != nil {
		g.registry.MustRegister(collectors.NewDBStatsCollector(db, "nephelon"))
	}
	return g
}

// checked shows what a round of checks of the records found.
func (g *gauges) checked(faults int) {
	g.faults.Set(float64(faults))
	g.proven.SetToCurrentTime()
}

// Metrics answers what Prometheus asks for. It belongs on a port of its own, which only the
// monitoring reaches.
func (s *Server) Metrics() http.Handler {
	return promhttp.HandlerFor(s.gauges.registry, promhttp.HandlerOpts{})
}

// measured times every operation, and logs one line of each: what was asked for, how it
// ended and how long it took; nothing of who asked.
func (s *Server) measured(ctx huma.Context, next func(huma.Context)) {
	begun, op := time.Now(), ctx.Operation().OperationID
	next(ctx)
	took := time.Since(begun)
	if !streams(ctx.URL().Path) {
		s.gauges.took.WithLabelValues(op, strconv.Itoa(ctx.Status())).Observe(took.Seconds())
	}
	s.log.InfoContext(ctx.Context(), "answered", "operation", op, "status", ctx.Status(), "ms", took.Milliseconds())
}
