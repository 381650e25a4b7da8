// Package memo remembers the values of dear functions from one plan to the next.
//
// A [Memory] is asked with the very value that its function receives, and finds it by all
// that is in that value: an input that a function uses cannot be missing from its key.
package memo

import (
	"encoding/binary"
	"fmt"
	"math"
	"reflect"
	"sync"
)

// Memory remembers a function. It may be shared, and what it returns is shared, too, and must
// not be changed. A nil Memory cannot be asked; use the function itself.
type Memory[Q, A any] struct {
	of   func(Q) A
	size func(A) int
	most int

	mutex sync.Mutex
	kept  map[string]A
	sum   int
}

// New returns a Memory of a function that depends on nothing but its argument. Before the sizes
// of its answers add up to more than most, it forgets all; a nil size counts each as 1.
func New[Q, A any](most int, size func(A) int, of func(Q) A) *Memory[Q, A] {
	if size == nil {
		size = func(A) int { return 1 }
	}
	return &Memory[Q, A]{of: of, size: size, most: most, kept: make(map[string]A)}
}

// Get returns the value of the function for a question. Two callers who ask the same at once
// may both work it out.
func (m *Memory[Q, A]) Get(q Q) A {
	key := Key(q)
	m.mutex.Lock()
	answer, known := m.kept[key]
	m.mutex.Unlock()
	if known {
		return answer
	}
	answer = m.of(q)
	m.mutex.Lock()
	defer m.mutex.Unlock()
	if m.sum += m.size(answer); m.sum > m.most {
		clear(m.kept)
		m.sum = m.size(answer)
	}
	m.kept[key] = answer
	return answer
}

// Len returns how many answers are kept.
func (m *Memory[Q, A]) Len() int {
	m.mutex.Lock()
	defer m.mutex.Unlock()
	return len(m.kept)
}

// Key returns a text that two values of a type share exactly if they are equal in every field,
// exported or not, what slices and pointers lead to included. It panics for a value with a
// map, a function or an interface in it, whose equality is not known.
func Key(v any) string {
	const usual = 1024 // bytes
	return string(appendValue(make([]byte, 0, usual), reflect.ValueOf(v)))
}

func appendValue(key []byte, v reflect.Value) []byte {
	number := func(n uint64) { key = binary.LittleEndian.AppendUint64(key, n) }
	switch v.Kind() {
	case reflect.Float64, reflect.Float32:
		number(math.Float64bits(v.Float()))
	case reflect.Int, reflect.Int8, reflect.Int16, reflect.Int32, reflect.Int64:
		number(uint64(v.Int()))
	case reflect.Uint, reflect.Uint8, reflect.Uint16, reflect.Uint32, reflect.Uint64:
		number(v.Uint())
	case reflect.Bool:
		flag := byte(0)
		if v.Bool() {
			flag = 1
		}
		key = append(key, flag)
	case reflect.String:
		number(uint64(v.Len()))
		key = append(key, v.String()...)
	case reflect.Slice:
		number(uint64(v.Len()))
		fallthrough
	case reflect.Array:
		for i := range v.Len() {
			key = appendValue(key, v.Index(i))
		}
	case reflect.Struct:
		for i := range v.NumField() {
			key = appendValue(key, v.Field(i))
		}
	case reflect.Pointer:
		if v.IsNil() {
			return append(key, 0)
		}
		key = appendValue(append(key, 1), v.Elem())
	default:
		panic(fmt.Sprintf("memo: the equality of a %s is not known", v.Type()))
	}
	return key
}
