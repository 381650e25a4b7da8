package proof

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"strings"
	"time"
)

// sendTime is the time that handing one head over may take.
const sendTime = 10 * time.Second

// Sender returns what hands heads to a place outside: a file that they are appended to, an http or
// https address that they are posted to, or mailto:address. It is nil for an empty place.
func Sender(place string, mail func(ctx context.Context, to, subject, text string) error) (
	func(context.Context, string) error, error) {
	if place == "" {
		return nil, nil
	}
	u, err := url.Parse(place)
	switch {
	case err == nil && u.Scheme == "mailto":
		if mail == nil {
			return nil, errors.New("heads cannot be sent by mail: no mail server is named")
		}
		return func(ctx context.Context, head string) error {
			return mail(ctx, u.Opaque, "Head of the record log", head)
		}, nil
	case err == nil && (u.Scheme == "http" || u.Scheme == "https"):
		return func(ctx context.Context, head string) error { return post(ctx, place, head) }, nil
	}
	return func(_ context.Context, head string) error { return appendTo(place, head) }, nil
}

func post(ctx context.Context, address, head string) error {
	limited, cancel := context.WithTimeout(ctx, sendTime)
	defer cancel()
	request, err := http.NewRequestWithContext(limited, http.MethodPost, address, strings.NewReader(head))
	if err != nil {
		return fmt.Errorf("post a head: %w", err)
	}
	request.Header.Set("Content-Type", "text/plain; charset=utf-8")
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		return fmt.Errorf("post a head: %w", err)
	}
	defer answer.Body.Close()
	if answer.StatusCode >= http.StatusMultipleChoices {
		return fmt.Errorf("post a head: the address answered %s", answer.Status)
	}
	return nil
}

func appendTo(name, head string) error {
	file, err := os.OpenFile(name, os.O_APPEND|os.O_CREATE|os.O_WRONLY, 0o644)
	if err != nil {
		return fmt.Errorf("open the file of heads: %w", err)
	}
	_, err = file.WriteString(head + "\n")
	if err := errors.Join(err, file.Close()); err != nil {
		return fmt.Errorf("append a head: %w", err)
	}
	return nil
}
