package server_test

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"hash/crc32"
	"net/http"
	"strings"
	"testing"
)

// A text that a database cannot keep is refused with a sentence, wherever it stands;
// none answers as a fault of the server's.
func TestTextThatCannotBeKept(t *testing.T) {
	web := newServer(t)
	c := signedIn(t, web, "owner@"+addCompany(t))
	for name, at := range map[string]struct{ method, path, body string }{
		"NUL in a name": {http.MethodPut, "/api/stock/one", `{"id":"one","sheet":"a\u0000b","part":"kit","volume":0.01}`},
		"no UTF-8": {http.MethodPut, "/api/stock/one",
			"{\"id\":\"one\",\"sheet\":\"a\xffb\",\"part\":\"kit\",\"volume\":0.01}"},
		"NUL in the path":  {http.MethodGet, "/api/shelf/a%00b", ""},
		"NUL in the query": {http.MethodGet, "/api/shelf?q=a%00b", ""},
		"no UTF-8 asked":   {http.MethodGet, "/api/shelf?q=%ff", ""},
	} {
		if status, text := c.send(at.method, at.path, at.body); status != http.StatusUnprocessableEntity &&
			status != http.StatusBadRequest || !strings.Contains(text, "type it again") {
			t.Errorf("%s: %d %s", name, status, text)
		}
	}
}

// strip is a PNG of so many points that it is small as a file and huge in memory.
func strip(width, height uint32) string { return picture(width, height, 8, 0, 1) }

// picture is a PNG of a depth in bits and a kind of colour, with so many bytes a point.
func picture(width, height uint32, depth, colour byte, each int) string {
	var out bytes.Buffer
	out.WriteString("\x89PNG\r\n\x1a\n")
	chunk := func(kind string, data []byte) {
		_ = binary.Write(&out, binary.BigEndian, uint32(len(data)))
		sum := crc32.NewIEEE()
		both := append([]byte(kind), data...)
		sum.Write(both)
		out.Write(both)
		_ = binary.Write(&out, binary.BigEndian, sum.Sum32())
	}
	head := make([]byte, 13)
	binary.BigEndian.PutUint32(head, width)
	binary.BigEndian.PutUint32(head[4:], height)
	head[8], head[9] = depth, colour
	chunk("IHDR", head)
	var rows bytes.Buffer
	z := zlib.NewWriter(&rows)
	const most = 220 << 20 // larger ones are refused by what their head says
	if points := int(height) * (each*int(width) + 1); points < most {
		_, _ = z.Write(make([]byte, points))
	}
	_ = z.Close()
	chunk("IDAT", rows.Bytes())
	chunk("IEND", nil)
	return out.String()
}

// A picture is refused by its measures before its points are made.
func TestAStripOfAPictureIsRefused(t *testing.T) {
	web := newServer(t)
	c := signedIn(t, web, "owner@"+addCompany(t))
	job := c.addJob(demoJob(t))
	path := "/api/jobs/" + job.ID.String() + "/surfaces/s/photos"
	for _, p := range []string{strip(40_000_000, 1), strip(1, 25_000)} {
		if status, text := c.send(http.MethodPost, path, p); status != http.StatusUnprocessableEntity ||
			!strings.Contains(text, "too large to read") {
			t.Errorf("%d %s", status, text)
		}
	}
}
