package server_test

import (
	"context"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/emersion/go-smtp"

	"nephelon/server"
	"nephelon/server/sessions"
)

// postOffice takes messages in place of a mail server.
type postOffice struct {
	took chan string
	to   string
}

func (o *postOffice) NewSession(*smtp.Conn) (smtp.Session, error) { return o, nil }
func (o *postOffice) Mail(string, *smtp.MailOptions) error        { return nil }
func (o *postOffice) Rcpt(to string, _ *smtp.RcptOptions) error   { o.to = to; return nil }
func (o *postOffice) Reset()                                      {}
func (o *postOffice) Logout() error                               { return nil }
func (o *postOffice) Data(r io.Reader) error {
	text, err := io.ReadAll(r)
	o.took <- o.to + "\n" + string(text)
	return err
}

// A link goes to whom it is for where a mail server is named; where that does not answer the
// link is there to be handed over all the same.
func TestLinksAreSent(t *testing.T) {
	office := &postOffice{took: make(chan string, 1)}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	mails := smtp.NewServer(office)
	go func() { _ = mails.Serve(l) }()
	s, err := server.New(server.Options{Store: records, Origin: "https://floors.example",
		Mail: "smtp://" + l.Addr().String() + "?from=nephelon@floors.example",
		Log:  slog.New(slog.NewTextHandler(io.Discard, nil))})
	if err != nil {
		t.Fatal(err)
	}
	web := httptest.NewServer(s)
	t.Cleanup(web.Close)
	domain := addCompany(t)
	owner := signedIn(t, web, "owner@"+domain)
	made := got[sessions.NewColleague](t, owner, http.MethodPost, "/api/people",
		map[string]string{"name": "Ylva", "email": "ylva@" + domain, "role": "hand"})
	message := <-office.took
	_, secret, _ := strings.Cut(made.Link.Path, "#")
	for _, want := range []string{"ylva@" + domain, "https://floors.example/set-password#", secret} {
		if !strings.Contains(strings.ReplaceAll(message, "=\r\n", ""), want) {
			t.Errorf("the message lacks %q:\n%s", want, message)
		}
	}
	if !made.Link.Sent {
		t.Error("it is not told that the link was sent")
	}
	// A change of the account is told to whom it is of.
	if status, text := newClient(t, web).send(http.MethodPost, "/api/password-link",
		map[string]string{"secret": secret, "password": "gravel otter lantern nine"}); status != http.StatusNoContent {
		t.Fatalf("%d %s", status, text)
	}
	if message := <-office.took; !strings.Contains(message, "ylva@"+domain) ||
		!strings.Contains(message, "set by a link") {
		t.Errorf("told of a change: %s", message)
	}
	if err := mails.Shutdown(context.Background()); err != nil {
		t.Fatal(err)
	}
	again := got[sessions.PasswordLink](t, owner, http.MethodPost, "/api/people/"+made.ID.String()+"/password-link", nil)
	if again.Sent || again.Path == "" {
		t.Errorf("with no mail server: %+v", again)
	}
	for _, odd := range []string{"mail.example", "http://mail.example?from=a@b.example", "smtp://mail.example"} {
		if _, err := server.New(server.Options{Mail: odd}); err == nil {
			t.Errorf("%q is taken for a mail server", odd)
		}
	}
}
