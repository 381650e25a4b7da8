package stage

// memo remembers the values of a function within one plan. The function receives nothing but
// its key and may use nothing else that differs within a job: so an input that is forgotten in
// the key does not compile.
type memo[K comparable, V any] struct {
	of    func(K) V
	known map[K]V
}

func newMemo[K comparable, V any](of func(K) V) memo[K, V] {
	return memo[K, V]{of, make(map[K]V)}
}

func (m memo[K, V]) get(key K) V {
	v, known := m.known[key]
	if !known {
		v = m.of(key)
		m.known[key] = v
	}
	return v
}
