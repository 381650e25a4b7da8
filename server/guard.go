package server

import (
	"bytes"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/http"
	"net/url"
	"path"
	"strings"
	"unicode/utf8"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"
)

// guarded refuses changes that another site's page asked a browser to make,
// and sets the headers every answer has. What a request may carry is bounded by
// each operation's MaxBodyBytes.
func guarded(secure bool, next http.Handler) http.Handler {
	headed := http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("X-Content-Type-Options", "nosniff")
		if secure {
			h.Set("Strict-Transport-Security", "max-age=31536000; includeSubDomains")
		}
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Content-Security-Policy", policy(""))
		if strings.HasPrefix(r.URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store")
		}
		next.ServeHTTP(w, r)
	})
	return http.NewCrossOriginProtection().Handler(headed)
}

// legible refuses text that cannot be kept: what is not UTF-8, and the character that
// ends texts in a database. It reads a JSON body into memory, at most api.BodyLimit bytes and valuesLimit
// values, and doorLimit bytes while nobody is signed in; a body of any other kind only for who is.
func (s *Server) legible(next http.Handler) http.Handler {
	refuse := func(w http.ResponseWriter, status int, text string) {
		w.Header().Set("Content-Type", "application/problem+json")
		w.WriteHeader(status)
		problem := huma.ErrorModel{Status: status, Title: http.StatusText(status), Detail: text}
		_ = json.NewEncoder(w).Encode(problem) // the one who asked is gone when this fails
	}
	keeps := func(text string) bool { return utf8.ValidString(text) && !strings.ContainsRune(text, 0) }
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		query, err := url.QueryUnescape(r.URL.RawQuery)
		if err != nil || !keeps(query) || !keeps(r.URL.Path) {
			refuse(w, http.StatusBadRequest, "The address holds characters that cannot be read; type it again.")
			return
		}
		if r.Body == nil || r.Body == http.NoBody {
			next.ServeHTTP(w, r)
			return
		}
		known := s.knows(r)
		if kind := r.Header.Get("Content-Type"); kind != "" && !strings.Contains(kind, "json") {
			if !known {
				r.Body = http.MaxBytesReader(w, r.Body, doorLimit)
			}
			next.ServeHTTP(w, r)
			return
		}
		limit := int64(api.BodyLimit)
		if !known {
			limit = doorLimit
		}
		text, err := io.ReadAll(http.MaxBytesReader(w, r.Body, limit))
		_, large := errors.AsType[*http.MaxBytesError](err)
		switch {
		case large && !known:
			refuse(w, http.StatusRequestEntityTooLarge,
				fmt.Sprintf("More than %d kB were sent by somebody who is not signed in. Sign in first.", doorLimit>>10))
			return
		case large:
			refuse(w, http.StatusRequestEntityTooLarge, fmt.Sprintf("More than %d MB were sent; send less.", api.BodyLimit>>20))
			return
		case err != nil:
			refuse(w, http.StatusRequestTimeout, "The upload was interrupted. Send it again.")
			return
		case bytes.Count(text, []byte{','}) > valuesLimit:
			refuse(w, http.StatusRequestEntityTooLarge, fmt.Sprintf("More than %d values were sent; send less.", valuesLimit))
			return
		case !utf8.Valid(text), bytes.IndexByte(text, 0) >= 0, endsTexts(text):
			refuse(w, http.StatusUnprocessableEntity,
				"A text holds a character that cannot be stored; type it again without invisible characters.")
			return
		}
		r.Body = io.NopCloser(bytes.NewReader(text))
		next.ServeHTTP(w, r)
	})
}

// knows reports whether a request comes with a session of somebody who is signed in.
func (s *Server) knows(r *http.Request) bool {
	if s.store == nil || !strings.HasPrefix(r.URL.Path, "/api/") {
		return false // pages take no bodies
	}
	return s.sessions.SignedIn(r.Context())
}

// endsTexts reports whether a JSON text holds the escape of U+0000: a backslash before it
// that is itself escaped makes it plain text.
func endsTexts(text []byte) bool {
	escape := []byte(`u0000`)
	for at := 0; ; {
		next := bytes.Index(text[at:], escape)
		if next < 0 {
			return false
		}
		at += next
		slashes := 0
		for at-slashes > 0 && text[at-slashes-1] == '\\' {
			slashes++
		}
		if slashes%2 == 1 {
			return true
		}
		at += len(escape)
	}
}

// policy is the Content-Security-Policy: nothing from other hosts, no inline
// script; the one style sheet that the interface library writes at run time
// carries the nonce.
func policy(nonce string) string {
	style := "'self'"
	if nonce != "" {
		style += " 'nonce-" + nonce + "'"
	}
	return "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; worker-src 'self'; style-src " + style +
		"; font-src 'self'; img-src 'self' data: blob:; " +
		"connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
}

const nonceMark = "__NONCE__"

// pages serves the built interface; every unknown path is the application's.
type pages struct {
	files fs.FS
	web   http.Handler
	index string
}

func newPages(files fs.FS) (*pages, error) {
	index, err := fs.ReadFile(files, "index.html")
	if err != nil {
		return nil, fmt.Errorf("the interface is not built (run `make build`): %w", err)
	}
	return &pages{files: files, web: http.FileServerFS(files), index: string(index)}, nil
}

// small serves a file as it was compressed when the interface was built, where it was and the browser takes it.
func (p *pages) small(c *gin.Context, name string) bool {
	if !strings.HasSuffix(name, ".wasm") {
		return false
	}
	c.Header("Vary", "Accept-Encoding")
	packed, err := fs.ReadFile(p.files, name+".br")
	if err != nil || !strings.Contains(c.GetHeader("Accept-Encoding"), "br") {
		return false
	}
	c.Header("Content-Encoding", "br")
	c.Data(http.StatusOK, "application/wasm", packed)
	return true
}

func (p *pages) serve(c *gin.Context) {
	name := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
	switch {
	case strings.HasPrefix(name, "api/"):
		c.JSON(http.StatusNotFound, gin.H{"title": "Not Found", "status": http.StatusNotFound,
			"detail": "There is no such address."})
		return
	case name != "" && name != "index.html":
		if file, err := fs.Stat(p.files, name); err == nil && file.Mode().IsRegular() {
			c.Status(http.StatusOK)
			if strings.HasPrefix(name, "assets/") {
				c.Header("Cache-Control", "public, max-age=31536000, immutable")
			}
			if p.small(c, name) {
				return
			}
			p.web.ServeHTTP(c.Writer, c.Request)
			return
		}
		if strings.HasPrefix(name+"/", "assets/") {
			c.Status(http.StatusNotFound)
			return
		}
	}
	nonce := rand.Text()
	c.Header("Content-Security-Policy", policy(nonce))
	c.Header("Cache-Control", "no-store")
	c.Data(http.StatusOK, "text/html; charset=utf-8", []byte(strings.ReplaceAll(p.index, nonceMark, nonce)))
}
