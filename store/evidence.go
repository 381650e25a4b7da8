package store

import (
	"archive/tar"
	"archive/zip"
	"bufio"
	"cmp"
	"compress/gzip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"slices"
	"strconv"
	"strings"
	"time"

	"nephelon/core/record/ledger"
)

// ArchiveEvidence reads what a check looks at from an archive of a company.
func ArchiveEvidence(z *zip.Reader) (ledger.Evidence, error) {
	var e ledger.Evidence
	jobs, err := readList[archivedJob](z, "jobs.json")
	if err != nil {
		return e, err
	}
	l, err := readLog(z)
	if err != nil {
		return e, err
	}
	e.Entries, e.Heads = l.Entries, l.Heads
	for _, j := range jobs {
		if _, err := fs.Stat(z, recordName(j.ID)); errors.Is(err, fs.ErrNotExist) {
			continue
		}
		r, err := read[archivedRecord](z, recordName(j.ID))
		if err != nil {
			return e, err
		}
		for _, i := range r.Issues {
			e.Plans = append(e.Plans, ledger.HeldPlan{Job: j.ID.String(), Number: i.Number, Doc: i.Plan})
		}
		for _, v := range r.Events {
			e.Events = append(e.Events, ledger.HeldEvent{Job: j.ID.String(), Person: v.Person.String(), Received: v.ReceivedAt,
				Doc: v.Event})
		}
	}
	photos, err := readList[archivedPhoto](z, "photos.json")
	if err != nil {
		return e, err
	}
	for _, p := range photos {
		image, err := opened(z, photoName(p.ID, false))
		if err != nil {
			return e, err
		}
		sum := sha256.Sum256(image)
		e.Photos = append(e.Photos, ledger.HeldPhoto{Job: p.Job.String(), ID: p.ID.String(),
			Hash: hex.EncodeToString(sum[:])})
	}
	return e, nil
}

// BackupEvidence reads what a check looks at from a backup, by company.
func BackupEvidence(from io.Reader) (map[string]ledger.Evidence, error) {
	zipped, err := gzip.NewReader(from)
	if err != nil {
		return nil, fmt.Errorf("this is no backup of Nephelon: %w", err)
	}
	rows := make(map[string][][]string)
	var m Manifest
	for archive := tar.NewReader(zipped); ; {
		header, err := archive.Next()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("the backup breaks off or is damaged: %w", err)
		}
		table := strings.TrimSuffix(header.Name, ".copy")
		switch table {
		case manifestName:
			if err := json.NewDecoder(archive).Decode(&m); err != nil {
				return nil, fmt.Errorf("the manifest of the backup cannot be read: %w", err)
			}
		case "events", "issues", "photos", "log_entries", "log_heads":
			if rows[table], err = copied(archive); err != nil {
				return nil, fmt.Errorf("read %s of the backup: %w", table, err)
			}
		}
	}
	if m.Format != backupFormat {
		return nil, errors.New("the backup has no manifest: it breaks off")
	}
	all := make(map[string]ledger.Evidence)
	for _, t := range m.Tables {
		if err := evident(t, rows[t.Name], all); err != nil {
			return nil, err
		}
	}
	return all, nil
}

// evident adds the rows of a table of a backup to what is known of companies.
func evident(t ManifestedTable, rows [][]string, all map[string]ledger.Evidence) error {
	for _, row := range rows {
		if len(row) != len(t.Columns) {
			return fmt.Errorf("read %s of the backup: a row has %d values, want %d", t.Name, len(row), len(t.Columns))
		}
		of := func(column string) string { return row[slices.Index(t.Columns, column)] }
		e := all[of("company_id")]
		var err error
		switch t.Name {
		case "events":
			at, bad := time.Parse("2006-01-02 15:04:05.999999-07", of("received_at"))
			err = bad
			e.Events = append(e.Events, ledger.HeldEvent{Job: of("job_id"), Person: of("person_id"), Received: at,
				Doc: json.RawMessage(of("doc"))})
		case "issues":
			number, bad := strconv.Atoi(of("number"))
			err = bad
			e.Plans = append(e.Plans, ledger.HeldPlan{Job: of("job_id"), Number: number, Doc: json.RawMessage(of("doc"))})
		case "photos":
			image, bad := hex.DecodeString(strings.TrimPrefix(of("image"), `\x`))
			err = bad
			sum := sha256.Sum256(image)
			e.Photos = append(e.Photos, ledger.HeldPhoto{Job: of("job_id"), ID: of("id"), Hash: hex.EncodeToString(sum[:])})
		case "log_entries":
			var entry ledger.Entry
			err = json.Unmarshal([]byte(of("entry")), &entry)
			e.Entries = append(e.Entries, entry)
		case "log_heads":
			e.Heads = append(e.Heads, of("note"))
		}
		if err != nil {
			return fmt.Errorf("read a row of %s of the backup: %w", t.Name, err)
		}
		all[of("company_id")] = e
	}
	for _, e := range all {
		slices.SortFunc(e.Entries, func(a, b ledger.Entry) int { return cmp.Compare(a.Number, b.Number) })
	}
	return nil
}

// copied reads rows in the text format of PostgreSQL's COPY.
func copied(from io.Reader) ([][]string, error) {
	var rows [][]string
	plain := strings.NewReplacer(`\\`, `\`, `\n`, "\n", `\t`, "\t", `\r`, "\r", `\b`, "\b", `\f`, "\f", `\v`, "\v",
		`\N`, "")
	for lines := bufio.NewReader(from); ; {
		line, err := lines.ReadString('\n')
		if errors.Is(err, io.EOF) {
			return rows, nil
		}
		if err != nil {
			return nil, fmt.Errorf("read a row: %w", err)
		}
		row := strings.Split(strings.TrimSuffix(line, "\n"), "\t")
		for n := range row {
			row[n] = plain.Replace(row[n])
		}
		rows = append(rows, row)
	}
}
