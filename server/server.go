// Package server offers the application over HTTP: an API described by OpenAPI,
// and the interface embedded in the binary.
package server

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/http"
	"reflect"
	"strings"
	"sync/atomic"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/klauspost/compress/gzhttp"

	"nephelon/core/days"
	"nephelon/core/plan"
	"nephelon/core/record"
	"nephelon/exchange"
	"nephelon/store"
)

// Options are what a server is made of.
type Options struct {
	Store  *store.Store
	Pages  fs.FS // the built interface
	Log    *slog.Logger
	Secure bool    // cookies only over TLS
	Proxy  string  // the address of a proxy in front, whose X-Forwarded-For is believed; none when empty
	Plans  float64 // s that a plan of the roster may take at most; as asked, up to 20 s, when zero
	Mail   string  // address of a mail server, see newPostbox; none when empty
	Origin string  // where people reach this, https://…, for links in messages
}

// Server is the application behind HTTP. It keeps no state of its own but the
// list of who is listening and plans it can make again; any number of them can share a database.
type Server struct {
	store    *store.Store
	log      *slog.Logger
	sessions *scs.SessionManager
	files    *exchange.Reader
	changes  *changes         // of jobs
	logged   *changes         // of their records
	people   *changes         // of who may do what
	rights   map[string]level // of operations
	hashing  chan struct{}    // holds whoever computes a hash
	waiting  atomic.Int32     // for it
	open     atomic.Int32     // requests under way
	proxy    string           // whose word on a client's address is taken; nobody's when empty
	plans    *plans
	planner  *plan.Planner
	gauges   *gauges
	turns    *turns // at what is costly
	planning *turns // at what plans
	times    times
	dayJobs  *lru.Cache[state, days.Job] // what the roster needs of jobs; a cache and nothing more
	drawing  chan struct{}               // holds whoever draws a picture anew
	queues   queues                      // of who waits for that
	post     *postbox                    // none where no mail server is named
	origin   string
	seconds  float64 // that a plan of the roster may take at most; as asked when zero
	api      huma.API
	handler  http.Handler
}

const (
	sessionDays = 14
	idleDays    = 3
	idleTimeout = 2 * time.Minute
	bodyLimit   = exchange.MaxFile + 1<<20
	doorLimit   = 64 << 10 // of a body while nobody is signed in
	valuesLimit = 400_000  // in a JSON body: each takes many times the memory of its text
)

// New puts a server together.
func New(o Options) (*Server, error) {
	files, err := exchange.NewReader()
	if err != nil {
		return nil, err
	}
	known, err := newPlans()
	if err != nil {
		return nil, err
	}
	dayJobs, err := lru.New[state, days.Job](mostDayJobs)
	if err != nil {
		return nil, fmt.Errorf("make the cache of the roster's jobs: %w", err)
	}
	s := &Server{dayJobs: dayJobs, store: o.Store, log: o.Log, files: files, origin: o.Origin, changes: newChanges(),
		logged: newChanges(), people: newChanges(), rights: rights(), times: usual(), turns: newTurns(mostCostly),
		planning: newTurns(mostPlanning), hashing: make(chan struct{}, hashesAtOnce), proxy: o.Proxy, seconds: o.Plans,
		plans: known, planner: plan.NewPlanner(), drawing: make(chan struct{}, 1),
		queues: queues{all: make(map[uuid.UUID]*queue)}, sessions: scs.New()}
	if o.Mail != "" {
		if s.post, err = newPostbox(o.Mail); err != nil {
			return nil, err
		}
	}
	s.sessions.Lifetime = sessionDays * 24 * time.Hour
	s.sessions.IdleTimeout = idleDays * 24 * time.Hour
	s.sessions.Codec = sessionCodec{}
	s.sessions.ErrorFunc = s.away
	s.sessions.Cookie.Name = "nephelon"
	if o.Secure {
		s.sessions.Cookie.Name = "__Host-nephelon"
	}
	s.sessions.Cookie.HttpOnly = true
	s.sessions.Cookie.SameSite = http.SameSiteStrictMode
	s.sessions.Cookie.Secure = o.Secure
	if o.Store != nil {
		if s.sessions.Store, err = newCalm(o.Store); err != nil {
			return nil, err
		}
	}
	var pool *sql.DB
	if o.Store != nil {
		pool = o.Store.DB()
	}
	s.gauges = newGauges(pool)
	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	engine.Use(gin.CustomRecoveryWithWriter(nil, s.recovered))
	s.api = humagin.New(engine, apiConfig())
	s.api.UseMiddleware(s.measured, s.authenticate)
	s.sessionRoutes()
	s.peopleRoutes()
	s.accountRoutes()
	s.factorRoutes()
	s.companyRoutes()
	s.rightsRoutes()
	s.jobRoutes()
	s.shelfRoutes()
	s.shelfFileRoutes()
	s.houseRoutes()
	s.benchRoutes()
	s.pourRoutes()
	s.rosterRoutes()
	s.calendarRoutes()
	s.runRoutes()
	s.recordRoutes()
	s.measureRoutes()
	s.photoRoutes()
	s.siteRoutes()
	exchange.ListValues(s.api.OpenAPI().Components.Schemas, schemas)
	if o.Pages != nil {
		pages, err := newPages(o.Pages)
		if err != nil {
			return nil, err
		}
		engine.NoRoute(pages.serve)
	}
	s.handler =
		numbered(
			s.watched(guarded(o.Secure, gzhttp.GzipHandler(s.ended(s.sessions.LoadAndSave(s.legible(engine)),
				s.legible(engine))))))
	return s, nil
}

// register adds an operation. The library's deadline on reading a body stays on its
// connection once the body is read and would end whatever works longer; slow bodies are
// ended by [lasting].
func register[I, O any](api huma.API, op huma.Operation, handler func(context.Context, *I) (*O, error)) {
	op.BodyReadTimeout = -1
	huma.Register(api, op, handler)
}

// schemas is the prefix of references to types in the description of the API.
const schemas = "#/components/schemas/"

func apiConfig() huma.Config {
	huma.DefaultArrayNullable = false
	config := huma.DefaultConfig("Nephelon", "1")
	config.CreateHooks = nil // no $schema links in bodies
	config.Components.Schemas = huma.NewMapRegistry(schemas, named)
	config.DocsPath, config.SchemasPath = "", ""
	config.OpenAPIPath = "/api/openapi"
	return config
}

// named gives the name of a type in the description of the API. The record speaks of
// surfaces, coats and batches, too, as they were issued.
func named(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	if t.Name() == "" && t.Kind() == reflect.Struct { // named by its fields
		name = "Request"
		for i := range t.NumField() {
			field, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
			if field != "" {
				name += strings.ToUpper(field[:1]) + field[1:]
			}
		}
	}
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice {
		t = t.Elem()
	}
	if strings.HasPrefix(t.PkgPath(), reflect.TypeFor[record.Event]().PkgPath()) {
		return "Record" + name
	}
	return name
}

// ServeHTTP answers one request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

// OpenAPI describes the API as JSON.
func (s *Server) OpenAPI() ([]byte, error) {
	text, err := s.api.OpenAPI().MarshalJSON()
	if err != nil {
		return nil, fmt.Errorf("describe the API: %w", err)
	}
	return text, nil
}

func (s *Server) recovered(c *gin.Context, cause any) {
	s.log.ErrorContext(c.Request.Context(), "a request failed", "path", c.Request.URL.Path, "cause", cause)
	c.AbortWithStatusJSON(http.StatusInternalServerError,
		huma.Error500InternalServerError("Something went wrong here; what you entered is kept on your side. Try again."))
}

// Serve answers requests on the listener until the context ends.
func (s *Server) Serve(ctx context.Context, web *http.Server, serve func() error) error {
	web.Handler = s
	web.ReadHeaderTimeout, web.IdleTimeout = s.times.pause, idleTimeout
	listening, stop := context.WithCancel(ctx)
	defer stop()
	web.RegisterOnShutdown(s.changes.close)
	web.RegisterOnShutdown(s.logged.close)
	web.RegisterOnShutdown(s.people.close)
	go s.follow(listening)
	go s.work(listening)
	go s.tidy(listening)
	ended := make(chan error, 1)
	go func() { ended <- serve() }()
	select {
	case err := <-ended:
		return fmt.Errorf("serve: %w", err)
	case <-ctx.Done():
	}
	limited, cancel := context.WithTimeout(context.WithoutCancel(ctx), s.times.drain)
	defer cancel()
	if err := web.Shutdown(limited); err != nil {
		// What is still under way then is cut, and how much of it is told.
		s.log.WarnContext(ctx, "requests were cut at the end", "cut", s.open.Load(), "after", s.times.drain.String())
		if err := web.Close(); err != nil {
			return fmt.Errorf("stop serving: %w", err)
		}
	}
	if err := <-ended; !errors.Is(err, http.ErrServerClosed) {
		return fmt.Errorf("serve: %w", err)
	}
	return nil
}
