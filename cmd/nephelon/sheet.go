package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"syscall"
	"time"

	"nephelon/core/draft"
	"nephelon/core/measure"
	"nephelon/core/sheet"
	"nephelon/exchange"
)

// Bounds of the process that reads a PDF.
const (
	pdfTime   = 10 * time.Second
	pdfMemory = 256 << 20 // of data; the reader's own and the program's
	pdfLines  = "pdf-lines"
)

// runSheet reads a maker's data sheet, PDF or text, and prints the draft.
func runSheet(ctx context.Context, arguments []string, in io.Reader, out, complain io.Writer) error {
	f := flags("sheet", "[-shelf | -score WANTED] FILE", complain)
	shelf := f.Bool("shelf", false, "print a shelf file with what was read, instead of the draft with its lines")
	wanted := f.String("score", "", "print how well the sheet is read, against a file of the values that it states")
	if err := parse(f, arguments); err != nil {
		return err
	}
	text, err := sheetText(f.Arg(0), in)
	if err != nil {
		return refusedError{err}
	}
	lines := sheet.Lines(string(text))
	if bytes.HasPrefix(text, []byte("%PDF-")) {
		if lines, err = apart(ctx, text); err != nil {
			return refusedError{err}
		}
	}
	read := sheet.From(lines).In(measure.Metric)
	if *wanted != "" {
		return score(read, *wanted, out)
	}
	var printed any = read
	if *shelf {
		printed = read.Shelf()
	}
	into := json.NewEncoder(out)
	into.SetIndent("", "  ")
	into.SetEscapeHTML(false)
	if err := into.Encode(printed); err != nil {
		return fmt.Errorf("print the draft: %w", err)
	}
	return nil
}

// score prints how well a draft fits what a careful reader wrote down.
func score(read draft.Draft, file string, out io.Writer) error {
	text, err := os.ReadFile(file)
	if err != nil {
		return refusedError{fmt.Errorf("read what is wanted: %w", err)}
	}
	all, err := draft.ReadWanted(string(text))
	if err != nil {
		return refusedError{fmt.Errorf("%s: %w", file, err)}
	}
	s, err := read.Score(all)
	if err != nil {
		return err
	}
	_, err = io.WriteString(out, s.Words())
	return err
}

// sheetText reads the file, or standard input for -.
func sheetText(name string, in io.Reader) ([]byte, error) {
	if name == "" {
		return nil, errors.New("name the data sheet, a PDF or a text; - reads standard input")
	}
	if name != "-" {
		file, err := os.Open(name)
		if err != nil {
			return nil, fmt.Errorf("read the data sheet: %w", err)
		}
		defer file.Close()
		in = file
	}
	text, err := io.ReadAll(io.LimitReader(in, exchange.MostPDFBytes+1))
	if err != nil {
		return nil, fmt.Errorf("read the data sheet: %w", err)
	}
	if len(text) > exchange.MostPDFBytes {
		return nil, fmt.Errorf("the data sheet is larger than %d MB; paste its text instead", exchange.MostPDFBytes>>20)
	}
	return text, nil
}

// apart reads the text of a PDF in a process of its own, with bounds of time and memory: a file can be
// made to take either without end.
func apart(ctx context.Context, file []byte) ([]sheet.Line, error) {
	self, err := os.Executable()
	if err != nil {
		return nil, fmt.Errorf("find this program: %w", err)
	}
	limited, cancel := context.WithTimeout(ctx, pdfTime)
	defer cancel()
	child := exec.CommandContext(limited, self, pdfLines)
	child.Stdin = bytes.NewReader(file)
	var answer, said bytes.Buffer
	child.Stdout, child.Stderr = &answer, &said
	if err := child.Run(); err != nil {
		if limited.Err() != nil {
			return nil, fmt.Errorf("this PDF takes longer than %s to read; paste its text instead", pdfTime)
		}
		if text := bytes.TrimSpace(said.Bytes()); len(text) > 0 && len(text) < 400 {
			return nil, errors.New(string(text))
		}
		return nil, errors.New("this PDF takes too much memory to read; paste its text instead")
	}
	var lines []sheet.Line
	if err := json.Unmarshal(answer.Bytes(), &lines); err != nil {
		return nil, fmt.Errorf("read the lines of the PDF: %w", err)
	}
	return lines, nil
}

// runPDFLines reads a PDF and prints its lines: it is the process of its own.
func runPDFLines(_ context.Context, _ []string, in io.Reader, out, _ io.Writer) error {
	bound := syscall.Rlimit{Cur: pdfMemory, Max: pdfMemory}
	if err := syscall.Setrlimit(syscall.RLIMIT_DATA, &bound); err != nil {
		return fmt.Errorf("bound the memory: %w", err)
	}
	file, err := io.ReadAll(io.LimitReader(in, exchange.MostPDFBytes+1))
	if err != nil {
		return fmt.Errorf("read the PDF: %w", err)
	}
	lines, err := exchange.PDFLines(file)
	if err != nil {
		return refusedError{err}
	}
	return json.NewEncoder(out).Encode(lines)
}
