package server_test

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"nephelon/server"
)

// lines keeps what is logged.
type lines struct {
	mutex sync.Mutex
	text  bytes.Buffer
}

func (l *lines) Write(text []byte) (int, error) {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	return l.text.Write(text)
}

func (l *lines) String() string {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	return l.text.String()
}

// hurried runs a server forty times as impatient as for people.
func hurried(t *testing.T) (s *server.Server, web *httptest.Server, log *lines, stop func()) {
	t.Helper()
	log = &lines{}
	pages := fstest.MapFS{"index.html": {}, "assets/large.bin": {Data: make([]byte, 64<<20)}}
	s, err := server.New(server.Options{Store: records, Pages: pages,
		Log: slog.New(server.Numbering{Handler: slog.NewJSONHandler(log, nil)})})
	if err != nil {
		t.Fatal(err)
	}
	s.Hurry(40)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	ctx, cancel := context.WithCancel(context.Background())
	ended, inner := make(chan error, 1), &http.Server{}
	go func() { ended <- s.Serve(ctx, inner, func() error { return inner.Serve(l) }) }()
	var once sync.Once
	stop = func() { once.Do(func() { cancel(); <-ended }) }
	t.Cleanup(stop)
	return s, &httptest.Server{URL: "http://" + l.Addr().String()}, log, stop
}

// dripping gives a body in pieces with a pause before each, until it stops giving for good.
type dripping struct {
	rest  []byte
	piece int
	pause time.Duration
	gives int
}

func (d *dripping) Read(into []byte) (int, error) {
	if len(d.rest) == 0 {
		return 0, io.EOF
	}
	if d.gives == 0 {
		d.pause = time.Minute
	}
	d.gives--
	<-time.After(d.pause) // the network, not the test
	n := copy(into[:min(len(into), d.piece)], d.rest)
	d.rest = d.rest[n:]
	return n, nil
}

// A photograph arrives that takes several times as long as a request may be worked at, as from
// a phone in a basement; one that stops arriving is let go.
func TestASlowUploadArrives(t *testing.T) {
	s, web, _, _ := hurried(t)
	c := signedIn(t, web, "owner@"+addCompany(t))
	j := c.addJob(demoJob(t))
	picture := phonePicture(t)
	send := func(gives int) (int, error) {
		body := &dripping{rest: picture, piece: len(picture)/20 + 1, pause: 100 * time.Millisecond, gives: gives}
		ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
		defer cancel()
		request, err := http.NewRequestWithContext(ctx, http.MethodPost,
			web.URL+"/api/jobs/"+j.ID.String()+"/surfaces/s1/photos", body)
		if err != nil {
			t.Fatal(err)
		}
		request.Header.Set("Content-Type", "application/octet-stream")
		answer, err := c.http.Do(request)
		if err != nil {
			return 0, err
		}
		defer answer.Body.Close()
		return answer.StatusCode, nil
	}
	if status, err := send(100); err != nil || status != http.StatusOK {
		t.Errorf("a slow upload: %d, %v", status, err)
	}
	// Here it is the server that gives up: the sender would go on for a minute.
	done := make(chan struct{})
	go func() { defer close(done); _, _ = send(3) }()
	begun := eventually(func() bool { return s.Open() == 1 })
	if ended := eventually(func() bool { return s.Open() == 0 }); !begun || !ended {
		t.Errorf("an upload that stands still: begun %v, let go %v", begun, ended)
	}
}

// eventually waits for something for ten seconds.
func eventually(is func() bool) bool {
	over, look := time.After(10*time.Second), time.NewTicker(5*time.Millisecond)
	defer look.Stop()
	for !is() {
		select {
		case <-look.C:
		case <-over:
			return false
		}
	}
	return true
}

// Who asks for much and reads nothing is let go; what is under way when a server ends is cut
// after a while, and how much of it is told.
func TestWhoDoesNotReadIsLetGo(t *testing.T) {
	s, web, log, stop := hurried(t)
	ask := func() net.Conn {
		conn, err := net.Dial("tcp", strings.TrimPrefix(web.URL, "http://"))
		if err != nil {
			t.Fatal(err)
		}
		if _, err := fmt.Fprintf(conn, "GET /assets/large.bin HTTP/1.1\r\nHost: x\r\n\r\n"); err != nil {
			t.Fatal(err)
		}
		return conn
	}
	conn := ask()
	defer conn.Close()
	begun := eventually(func() bool { return s.Open() == 1 })
	if ended := eventually(func() bool { return s.Open() == 0 }); !begun || !ended {
		t.Errorf("an answer that nobody reads: begun %v, ended %v", begun, ended)
	}
	other := ask()
	defer other.Close()
	if !eventually(func() bool { return s.Open() == 1 }) {
		t.Fatal("nothing is under way")
	}
	stop()
	if text := log.String(); !strings.Contains(text, "requests were cut") || !strings.Contains(text, `"cut":1`) {
		t.Errorf("it is not told what was cut: %s", text)
	}
}

// Every answer has a number, which the line that is logged about it has, too; the line says
// nothing of who asked. What is measured can be read.
func TestRequestsAreNumberedAndMeasured(t *testing.T) {
	s, web, log, _ := hurried(t)
	domain := addCompany(t)
	c := signedIn(t, web, "lead@"+domain)
	answer, err := c.http.Get(web.URL + "/api/me")
	if err != nil {
		t.Fatal(err)
	}
	answer.Body.Close()
	id := answer.Header.Get("X-Request-Id")
	if text := log.String(); id == "" || !strings.Contains(text, `"operation":"me","status":200`) ||
		!strings.Contains(text, `"request":"`+id+`"`) || strings.Contains(text, domain) {
		t.Errorf("number %q, logged: %s", id, text)
	}
	metrics := httptest.NewRecorder()
	s.Metrics().ServeHTTP(metrics, httptest.NewRequest(http.MethodGet, "/metrics", nil))
	for _, want := range []string{`nephelon_request_seconds_count{operation="me",status="200"} 1`,
		"nephelon_requests_open 0", "go_sql_open_connections", "process_resident_memory_bytes"} {
		if !strings.Contains(metrics.Body.String(), want) {
			t.Errorf("metrics lack %s", want)
		}
	}
}
