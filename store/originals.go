package store

import (
	"archive/zip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jmoiron/sqlx"
)

// Original is a maker's document that a data sheet was read from.
type Original struct {
	Hash    string     `db:"hash" json:"hash"`
	Name    string     `db:"name" json:"name"`
	Kind    string     `db:"kind" json:"kind"`
	AddedBy *uuid.UUID `db:"added_by" json:"addedBy,omitempty"`
	AddedAt time.Time  `db:"added_at" json:"addedAt"`
	Content []byte     `db:"content" json:"-"`
}

// KeepOriginal keeps a document and returns the hash that it is read by. Those that no sheet named for a month,
// since nobody saved what was read of them, are forgotten.
func (s *Store) KeepOriginal(ctx context.Context, company, person uuid.UUID, name, kind string,
	content []byte) (string, error) {
	sum := sha256.Sum256(content)
	hash := hex.EncodeToString(sum[:])
	return hash, s.inTransaction(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `delete from originals o where company_id = $1
			and added_at < now() - interval '30 days' and not exists (select from sheet_versions v
			where v.company_id = $1 and v.doc -> 'original' ->> 'hash' = o.hash)`, company); err != nil {
			return fmt.Errorf("forget documents: %w", err)
		}
		if _, err := tx.ExecContext(ctx, `insert into originals (company_id, hash, name, kind, content, added_by)
			values ($1, $2, $3, $4, $5, $6) on conflict (company_id, hash) do update set added_at = now()`,
			company, hash, name, kind, content, person); err != nil {
			return fmt.Errorf("keep a document: %w", err)
		}
		return nil
	})
}

// Original returns a document by its hash.
func (s *Store) Original(ctx context.Context, company uuid.UUID, hash string) (Original, error) {
	var out Original
	err := s.db.GetContext(ctx, &out, `select hash, name, kind, added_by, added_at, content from originals
		where company_id = $1 and hash = $2`, company, hash)
	return out, found(err, "read a document")
}

const originalsName = "originals.json"

func originalName(hash string) string { return "originals/" + hash }

// exportOriginals writes the documents of a company.
func exportOriginals(ctx context.Context, tx *sqlx.Tx, company uuid.UUID, z *zip.Writer) error {
	all, err := rowsOf[Original](ctx, tx, `select hash, name, kind, added_by, added_at from originals
		where company_id = $1 order by hash`, company)
	if err != nil {
		return err
	}
	if err := put(z, originalsName, all); err != nil {
		return err
	}
	for _, o := range all {
		var content []byte
		if err := tx.GetContext(ctx, &content, `select content from originals where company_id = $1 and hash = $2`,
			company, o.Hash); err != nil {
			return fmt.Errorf("read a document: %w", err)
		}
		if err := put(z, originalName(o.Hash), content); err != nil {
			return err
		}
	}
	return nil
}

// originals brings the documents of an archive in; those of before there were any have none.
func (im importing) originals() error {
	if _, err := im.z.Open(originalsName); err != nil {
		return nil
	}
	all, err := readList[Original](im.z, originalsName)
	if err != nil {
		return err
	}
	for _, o := range all {
		content, err := opened(im.z, originalName(o.Hash))
		if err != nil {
			return err
		}
		sum := sha256.Sum256(content)
		if hex.EncodeToString(sum[:]) != o.Hash {
			return &BadArchive{originalName(o.Hash), "It is not the document that its name says."}
		}
		if err := im.insert(`insert into originals (company_id, hash, name, kind, content, added_by, added_at)
			values ($1, $2, $3, $4, $5, $6, $7) on conflict do nothing`, o.Hash, o.Name, o.Kind, content, o.AddedBy,
			o.AddedAt); err != nil {
			return err
		}
	}
	return nil
}
