package main

import (
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"golang.org/x/mod/sumdb/note"

	"nephelon/store"
)

// keyName is the name that keys of logs bear.
const keyName = "nephelon"

// signWith has a store sign the heads of logs with the Ed25519 key in a file. Another file is another
// key: every log names it from then on.
func signWith(records *store.Store, file string) error {
	signer, public, err := keyIn(file)
	if err != nil {
		return err
	}
	records.SignWith(signer, public)
	return nil
}

// keyIn returns the key in a file, which is made where there is none.
func keyIn(file string) (signer note.Signer, public string, err error) {
	text, err := os.ReadFile(file)
	if errors.Is(err, fs.ErrNotExist) {
		private, public, err := note.GenerateKey(rand.Reader, keyName)
		if err != nil {
			return nil, "", fmt.Errorf("make a key: %w", err)
		}
		if err := os.MkdirAll(filepath.Dir(file), 0o700); err != nil {
			return nil, "", fmt.Errorf("make the folder of the key: %w", err)
		}
		text = []byte(private + "\n" + public + "\n")
		if err := os.WriteFile(file, text, 0o600); err != nil {
			return nil, "", fmt.Errorf("keep the key: %w", err)
		}
	} else if err != nil {
		return nil, "", fmt.Errorf("read the key: %w", err)
	}
	private, public, _ := strings.Cut(strings.TrimSpace(string(text)), "\n")
	if signer, err = note.NewSigner(private); err != nil {
		return nil, "", refusedError{fmt.Errorf("%s holds no key: name another file with -key, or delete it and one is made",
			file)}
	}
	if _, err := note.NewVerifier(public); err != nil {
		return nil, "", refusedError{fmt.Errorf("%s lacks the public key in its second line", file)}
	}
	return signer, public, nil
}

// usualKey returns the file of the key where none is named.
func usualKey() string {
	if file := os.Getenv("NEPHELON_KEY"); file != "" {
		return file
	}
	folder, err := os.UserConfigDir()
	if err != nil {
		folder = "."
	}
	return filepath.Join(folder, "nephelon", "log.key")
}
