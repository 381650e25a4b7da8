package server_test

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"net/http"
	"strings"
	"testing"

	"nephelon/server/jobs"
	"nephelon/server/photos"

	"github.com/google/uuid"
)

// phonePicture is a JPEG as a phone writes it, lying on its side: its left half
// is dark, and an EXIF segment says that it is to be turned by 90° and where it
// was taken (tag 0x8825 points to the place; TIFF 6.0 and EXIF 2.3, from memory).
func phonePicture(t *testing.T) []byte {
	t.Helper()
	picture := image.NewGray(image.Rect(0, 0, 400, 200))
	for x := 200; x < 400; x++ {
		for y := range 200 {
			picture.SetGray(x, y, color.Gray{255})
		}
	}
	var plain bytes.Buffer
	if err := jpeg.Encode(&plain, picture, nil); err != nil {
		t.Fatal(err)
	}
	tiff := new(bytes.Buffer)
	write := func(values ...any) {
		for _, v := range values {
			if err := binary.Write(tiff, binary.BigEndian, v); err != nil {
				t.Fatal(err)
			}
		}
	}
	write([]byte("MM"), uint16(42), uint32(8), uint16(2))
	write(uint16(0x0112), uint16(3), uint32(1), uint16(6), uint16(0)) // turn clockwise
	write(uint16(0x8825), uint16(4), uint32(1), uint32(38), uint32(0))
	write(uint16(1), uint16(1), uint16(2), uint32(2), []byte("N\x00\x00\x00"), uint32(0))
	exif := append([]byte("Exif\x00\x00"), tiff.Bytes()...)
	exif = append(exif, "GPS 61.2345 N, kept by the camera"...)
	var out bytes.Buffer
	out.Write(plain.Bytes()[:2])
	out.Write([]byte{0xff, 0xe1, byte((len(exif) + 2) >> 8), byte(len(exif) + 2)})
	out.Write(exif)
	out.Write(plain.Bytes()[2:])
	return out.Bytes()
}

func TestPhotographsLoseTheirPlaceAndStandUpright(t *testing.T) {
	web := newServer(t)
	domain := addCompany(t)
	c := signedIn(t, web, "lead@"+domain)
	job := c.addJob(demoJob(t)).ID.String()
	upload := phonePicture(t)
	if !bytes.Contains(upload, []byte("GPS")) {
		t.Fatal("the picture holds no place to begin with")
	}
	status, text := c.send(http.MethodPost, "/api/jobs/"+job+"/surfaces/s1/photos", string(upload))
	var lines []photos.PhotoLine
	if err := json.Unmarshal([]byte(text), &lines); status != http.StatusOK || err != nil || len(lines) != 1 ||
		lines[0].Surface != "s1" || lines[0].AddedBy != "lead" {
		t.Fatalf("%d %s", status, text)
	}
	for _, size := range []string{"image", "thumb"} {
		status, stored := c.send(http.MethodGet, "/api/photos/"+lines[0].ID.String()+"/"+size, nil)
		if status != http.StatusOK || strings.Contains(stored, "GPS") || strings.Contains(stored, "Exif") {
			t.Errorf("%s: %d, and it still tells where it was taken", size, status)
		}
		picture, err := jpeg.Decode(strings.NewReader(stored))
		if err != nil {
			t.Fatal(err)
		}
		b := picture.Bounds()
		if b.Dx()*2 != b.Dy() {
			t.Errorf("%s is %v: not upright", size, b)
		}
		// What lay to the left is now at the top.
		if top, _, _, _ := picture.At(b.Dx()/2, b.Dy()/8).RGBA(); top > 0x4000 {
			t.Errorf("%s: the dark half is not at the top", size)
		}
	}
	path := "/api/photos/" + lines[0].ID.String()
	if status, text := c.send(http.MethodPut, path+"/caption", map[string]string{"caption": "Wheel pit"}); status >= 300 {
		t.Fatalf("%d %s", status, text)
	}
	if _, text := c.send(http.MethodGet, "/api/jobs/"+job+"/photos", nil); !strings.Contains(text, "Wheel pit") {
		t.Errorf("no caption in %s", text)
	}
	for _, removed := range []bool{true, false} {
		c.send(http.MethodPut, path+"/removed", map[string]bool{"removed": removed})
		if _, text := c.send(http.MethodGet, "/api/jobs/"+job+"/photos", nil); strings.Contains(text,
			"Wheel pit") == removed {
			t.Errorf("removed %v: %s", removed, text)
		}
	}
	// Another company sees none of it; a hand adds to it, once however often it is sent.
	stranger := signedIn(t, web, "owner@"+addCompany(t))
	for _, there := range []string{path + "/image", path + "/thumb"} {
		if status, _ := stranger.send(http.MethodGet, there, nil); status != http.StatusNotFound {
			t.Errorf("a stranger gets %d at %s", status, there)
		}
	}
	if status, _ := stranger.send(http.MethodPost, "/api/jobs/"+job+"/surfaces/s1/photos", string(upload)); status !=
		http.StatusNotFound {
		t.Errorf("a stranger adds a photograph: %d", status)
	}
	hand, id := signedIn(t, web, "hand@"+domain), uuid.NewString()
	for range 2 {
		if status, text := hand.send(http.MethodPost, "/api/jobs/"+job+"/surfaces/s1/photos?id="+id,
			string(upload)); status != http.StatusOK || strings.Count(text, id) != 1 {
			t.Errorf("a hand adds a photograph: %d %s", status, text)
		}
	}
	// What was removed cannot be read.
	signedIn(t, web, "owner@"+domain).send(http.MethodPut, "/api/photos/"+id+"/removed", map[string]bool{"removed": true})
	if status, _ := hand.send(http.MethodGet, "/api/photos/"+id+"/image", nil); status != http.StatusNotFound {
		t.Errorf("a photograph that was removed is read: %d", status)
	}
}

func TestWhatIsNoPhotographIsRefused(t *testing.T) {
	web := newServer(t)
	c := signedIn(t, web, "lead@"+addCompany(t))
	job := c.addJob(demoJob(t)).ID.String()
	// A PNG that claims to be as wide and as high as it can be.
	var huge bytes.Buffer
	if err := png.Encode(&huge, image.NewGray(image.Rect(0, 0, 1, 1))); err != nil {
		t.Fatal(err)
	}
	bomb := huge.Bytes()
	binary.BigEndian.PutUint32(bomb[16:], 60000)
	binary.BigEndian.PutUint32(bomb[20:], 60000)
	binary.BigEndian.PutUint32(bomb[29:], crc32.ChecksumIEEE(bomb[12:29]))
	photo := phonePicture(t)
	for _, refused := range []struct{ name, content, says string }{
		{"a text", "GPS by word of mouth", "neither a JPEG nor a PNG"},
		{"cut off", string(photo[:len(photo)/2]), "breaks off"},
		{"too many bytes", string(photo) + strings.Repeat("\x00", 13<<20), "at most 12 MB"},
		{"too many points", string(bomb), "60000 by 60000"},
	} {
		status, text := c.send(http.MethodPost, "/api/jobs/"+job+"/surfaces/s1/photos", refused.content)
		if status != http.StatusUnprocessableEntity || !strings.Contains(text, refused.says) {
			t.Errorf("%s: %d %s", refused.name, status, text)
		}
	}
	if status, _ := c.send(http.MethodPost, "/api/jobs/"+job+"/surfaces/s1/photos", strings.Repeat(" ", 50<<20)); status !=
		http.StatusRequestEntityTooLarge {
		t.Errorf("50 MB: %d", status)
	}
}

func TestCopyingASurface(t *testing.T) {
	web := newServer(t)
	domain := addCompany(t)
	c := signedIn(t, web, "estimator@"+domain)
	state := c.addJob(demoJob(t))
	from, to := state.ID.String(), c.addJob(demoJob(t)).ID.String()
	surface := state.File.Job.Surfaces[0]
	for copies := 1; copies <= 2; copies++ {
		if status, text := c.send(http.MethodPost, fmt.Sprintf("/api/jobs/%s/surfaces/%s/copies", from, surface.ID),
			map[string]string{"to": to}); status >= 300 {
			t.Fatalf("%d %s", status, text)
		}
		_, text := c.send(http.MethodGet, "/api/jobs/"+to, nil)
		var other jobs.JobState
		if err := json.Unmarshal([]byte(text), &other); err != nil {
			t.Fatal(err)
		}
		if got := len(other.File.Job.Surfaces); got != len(state.File.Job.Surfaces)+copies {
			t.Errorf("%d surfaces after %d copies", got, copies)
		}
		if refused := other.Plan.Refused(); len(refused) > 0 {
			t.Errorf("after %d copies: %v", copies, refused)
		}
	}
	for _, wrong := range []struct {
		path, to string
		status   int
	}{
		{from + "/surfaces/nothing", to, http.StatusUnprocessableEntity},
		{from + "/surfaces/" + surface.ID, "00000000-0000-4000-8000-000000000000", http.StatusNotFound},
	} {
		if status, text := c.send(http.MethodPost, "/api/jobs/"+wrong.path+"/copies",
			map[string]string{"to": wrong.to}); status != wrong.status {
			t.Errorf("%s: %d %s", wrong.path, status, text)
		}
	}
}
