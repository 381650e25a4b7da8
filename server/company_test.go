package server_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"nephelon/core/record"
	"nephelon/server/api"
	"nephelon/server/company"
	"nephelon/server/sessions"
	"nephelon/server/shelf"
)

// All data of a company comes back as it was from its archive, in another company, where
// nobody of it can sign in until an owner says so; an archive that is damaged or brought into
// a company that holds something changes nothing.
func TestACompanyIsTakenAlong(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	c := signedIn(t, web, "owner@"+domain)
	j := c.addJob(demoJob(t))
	sheet := demoJob(t).Products[0]
	got[api.Stands](t, c, http.MethodPut, "/api/systems/two?base=0", system(sheet.ID))
	got[api.Stands](t, c, http.MethodPut, "/api/stock/tin?base=0", container(sheet.ID))
	sheet.Version = 0
	got[shelf.SheetState](t, c, http.MethodPut, "/api/shelf/"+sheet.ID, sheet)
	path := "/api/jobs/" + j.ID.String()
	c.send(http.MethodPost, path+"/surfaces/s1/photos", string(phonePicture(t)))
	c.issue(j.ID.String(), uuid.New())
	tablet := c.tablet()
	c.log(j.ID.String(), tablet.event(record.Noted, "", record.Body{Text: "set down to move"}))
	if status, _ := c.send(http.MethodGet, "/api/company/archive", nil); status != http.StatusForbidden {
		t.Errorf("taken along without the password: %d", status)
	}
	c.confirm()
	status, archive := c.send(http.MethodGet, "/api/company/archive", nil)
	if status != http.StatusOK {
		t.Fatalf("%d %s", status, archive)
	}
	z, err := zip.NewReader(strings.NewReader(archive), int64(len(archive)))
	if err != nil {
		t.Fatal(err)
	}
	// What is in it are open formats, and no secrets.
	for _, f := range z.File {
		r, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		text, err := io.ReadAll(r)
		if err != nil {
			t.Fatal(err)
		}
		if strings.HasSuffix(f.Name, ".json") && !json.Valid(text) || strings.HasSuffix(f.Name, ".jpg") &&
			!bytes.HasPrefix(text, []byte{0xff, 0xd8}) {
			t.Errorf("%s is not what its name says", f.Name)
		}
		if bytes.Contains(text, []byte("argon2")) {
			t.Errorf("%s holds a secret", f.Name)
		}
	}
	other := addCompany(t)
	theirs := signedIn(t, web, "owner@"+other)
	send := func(c *client, archive string) (int, string) {
		return c.send(http.MethodPost, "/api/company/archive", archive)
	}
	for name, bad := range map[string]string{"cut": archive[:len(archive)/2], "no archive": "hello",
		"without jobs": without(t, z, "jobs/"), "without people": without(t, z, "people.json"),
		"a house that cannot be read": replaced(t, z, "company.json", `"house": {}`, `"house": {"hourCost": "much"}`),
		"stock that cannot be read":   replaced(t, z, "stock.json", `"volume": 0.004`, `"volume": "some"`)} {
		if status, text := send(theirs, bad); status != http.StatusUnprocessableEntity {
			t.Errorf("%s: %d %.200s", name, status, text)
		}
	}
	if status, text := send(theirs, archive); status != http.StatusOK || !strings.Contains(text, "Whole: ") {
		t.Fatalf("%d %s", status, text)
	}
	if status, text := send(theirs, archive); status != http.StatusConflict || !strings.Contains(text, "already") {
		t.Errorf("brought in twice: %d %s", status, text)
	}
	for _, there := range []string{path, path + "/photos", path + "/events?since=0", "/api/systems", "/api/stock",
		"/api/shelf?media=true", "/api/shelf/" + sheet.ID} {
		_, before := c.send(http.MethodGet, there, nil)
		status, after := theirs.send(http.MethodGet, there, nil)
		if status != http.StatusOK || plainer(before) != plainer(after) {
			t.Errorf("%s: %d\n%.600s\nbefore:\n%.600s", there, status, plainer(after), plainer(before))
		}
	}
	// Somebody of the archive signs in where they always did, and cannot be taken over.
	for _, p := range got[[]sessions.Colleague](t, theirs, http.MethodGet, "/api/people", nil) {
		if !strings.HasSuffix(p.Email, domain) {
			continue
		}
		if p.Active {
			t.Errorf("%s can sign in", p.Email)
		}
		status, text := theirs.send(http.MethodPut, fmt.Sprintf("/api/people/%s?base=1", p.ID),
			map[string]any{"role": "lead", "active": true})
		if status != http.StatusConflict || !strings.Contains(text, "cannot be used") {
			t.Errorf("%s is taken over: %d %s", p.Email, status, text)
		}
	}
	signedIn(t, web, "lead@"+domain)
}

// plainer leaves out what counts changes of one database, and where pictures lie.
func plainer(text string) string {
	var value map[string]any
	if json.Unmarshal([]byte(text), &value) != nil {
		return text
	}
	for _, key := range []string{"mark", "time"} {
		delete(value, key)
	}
	out, _ := json.Marshal(value)
	return string(out)
}

// replaced writes an archive again with a text in one of its files replaced.
func replaced(t *testing.T, z *zip.Reader, name, old, by string) string {
	t.Helper()
	f, err := z.Open(name)
	if err != nil {
		t.Fatal(err)
	}
	text, err := io.ReadAll(f)
	if err != nil || !bytes.Contains(text, []byte(old)) {
		t.Fatalf("%s holds no %s: %v", name, old, err)
	}
	return rewritten(t, z, name, func(w *zip.Writer) {
		into, err := w.Create(name)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := into.Write(bytes.Replace(text, []byte(old), []byte(by), 1)); err != nil {
			t.Fatal(err)
		}
	})
}

// without writes an archive again but for some of its files.
func without(t *testing.T, z *zip.Reader, prefix string) string {
	t.Helper()
	return rewritten(t, z, prefix, func(*zip.Writer) {})
}

// rewritten writes an archive again with something in place of some of its files.
func rewritten(t *testing.T, z *zip.Reader, prefix string, add func(*zip.Writer)) string {
	t.Helper()
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, f := range z.File {
		if strings.HasPrefix(f.Name, prefix) {
			continue
		}
		if err := w.Copy(f); err != nil {
			t.Fatal(err)
		}
	}
	add(w)
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return out.String()
}

// What a company keeps is told before it is full; then no more photographs and jobs are taken,
// and the record of a day still is.
func TestAQuotaIsToldBeforeItIsReached(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	c := signedIn(t, web, "owner@"+domain)
	j := c.addJob(demoJob(t))
	path := "/api/jobs/" + j.ID.String()
	c.issue(j.ID.String(), uuid.New())
	kept := got[company.StorageState](t, c, http.MethodGet, "/api/company/storage", nil)
	if kept.Used == 0 || kept.Near || kept.Plans == 0 || kept.Record == 0 {
		t.Errorf("%+v", kept)
	}
	limit := func(quota int64) {
		if err := records.SetCompany(t.Context(), "owner@"+domain, nil, &quota); err != nil {
			t.Fatal(err)
		}
	}
	limit(kept.Used * 11 / 10)
	if kept := got[company.StorageState](t, c, http.MethodGet, "/api/company/storage", nil); !kept.Near {
		t.Errorf("it is not told: %+v", kept)
	}
	limit(kept.Used)
	if status, text := c.send(http.MethodPost, path+"/surfaces/s1/photos", string(phonePicture(t))); status !=
		http.StatusInsufficientStorage || !strings.Contains(text, "Remove photographs") {
		t.Errorf("a photograph beyond: %d %s", status, text)
	}
	limit(kept.Used - 1)
	if status, _ := c.send(http.MethodPost, "/api/jobs", demoJob(t)); status != http.StatusInsufficientStorage {
		t.Errorf("a job beyond: %d", status)
	}
	tablet := c.tablet()
	if answer := c.log(j.ID.String(), tablet.event(record.Noted, "", record.Body{Text: "hot"})); len(answer.Refused) > 0 {
		t.Errorf("the record is refused: %+v", answer)
	}
}

// One person may have a few costly things under way at once; what is more is refused at once,
// and taken again when one of them is done.
func TestWhatIsCostlyIsBounded(t *testing.T) {
	web, domain := newServer(t), addCompany(t)
	c, other := signedIn(t, web, "owner@"+domain), signedIn(t, web, "lead@"+domain)
	j := c.addJob(demoJob(t))
	path := web.URL + "/api/jobs/" + j.ID.String() + "/surfaces/s1/photos"
	var under []*io.PipeWriter
	answers := make(chan int, 32)
	begin := func(c *client) {
		body, into := io.Pipe()
		under = append(under, into)
		go func() {
			answer, err := c.http.Post(path, "application/octet-stream", body)
			if err != nil {
				answers <- 0
				return
			}
			answer.Body.Close()
			answers <- answer.StatusCode
		}()
	}
	// More and more that do not end, until one is refused.
	refused := 0
	for n := range 12 {
		begin(c)
		select {
		case status := <-answers:
			if status != http.StatusTooManyRequests {
				t.Fatalf("upload %d: %d", n, status)
			}
			refused = n
		case <-time.After(200 * time.Millisecond):
			continue
		}
		break
	}
	if refused != 6 {
		t.Errorf("%d were taken at once", refused)
	}
	if status, text := other.send(http.MethodPost, strings.TrimPrefix(path, web.URL), string(phonePicture(t))); status !=
		http.StatusOK {
		t.Errorf("somebody else: %d %s", status, text)
	}
	for _, into := range under {
		into.Close()
	}
	for range refused {
		<-answers
	}
	if status, text := c.send(http.MethodPost, strings.TrimPrefix(path, web.URL), string(phonePicture(t))); status !=
		http.StatusOK {
		t.Errorf("when they are done: %d %s", status, text)
	}
}
