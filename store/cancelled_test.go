package store_test

import (
	"context"
	"errors"
	"reflect"
	"strings"
	"testing"

	"nephelon/store"
)

// Every call of the store ends with its caller: given a context that is over, it returns an error
// that says so and what it was about to do, and nothing else than what it returns with an error.
func TestEveryCallEndsWithItsCaller(t *testing.T) {
	s, err := store.Open(t.Context(), database(t))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	// These take a file, a function or a connection that has to be there before anything is asked.
	apart := map[string]bool{"Import": true, "Restore": true, "Alone": true, "Listen": true}
	over, cancel := context.WithCancel(t.Context())
	cancel()
	called := 0
	of := reflect.ValueOf(s)
	for i := range of.NumMethod() {
		name, method := of.Type().Method(i).Name, of.Method(i)
		kind := method.Type()
		last := kind.NumOut() - 1
		if apart[name] || kind.NumIn() == 0 || kind.In(0) != reflect.TypeFor[context.Context]() || last < 0 ||
			kind.Out(last) != reflect.TypeFor[error]() {
			continue
		}
		args := []reflect.Value{reflect.ValueOf(over)}
		for n := 1; n < kind.NumIn(); n++ {
			switch in := kind.In(n); {
			case in.Kind() == reflect.Interface && in.NumMethod() > 0:
				args = append(args, reflect.ValueOf(new(strings.Builder)))
			case kind.IsVariadic() && n == kind.NumIn()-1:
				args = append(args, reflect.Zero(in.Elem()))
			case in.Kind() == reflect.Slice && in.Elem().Kind() != reflect.Uint8:
				args = append(args, reflect.MakeSlice(in, 1, 1))
			default:
				args = append(args, reflect.Zero(in))
			}
		}
		got := method.Call(args)
		called++
		failed, _ := got[last].Interface().(error)
		if failed == nil || !errors.Is(failed, context.Canceled) {
			t.Errorf("%s: %v", name, failed)
		}
	}
	if called < 70 {
		t.Errorf("only %d calls were tried", called)
	}
}
