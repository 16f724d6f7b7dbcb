// Command reliability attacks a server of its own and its data, on the loopback address alone and
// within bounds, and prints what it found as the tables of docs/reliability.md:
//
//	go run ./scripts/reliability [-kills 60]
//
// It measures what commands take at the limits of a file, kills the server while people write,
// fills a disk, takes the right to write away, and stops the server in the middle of long work.
package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"syscall"
	"time"

	"ambivia/core/circuit"
	"ambivia/core/circuittest"
)

// longest bounds whatever is waited for.
const longest = 2 * time.Minute

func main() {
	kills := flag.Int("kills", 60, "how often the server is killed")
	flag.Parse()
	if err := run(*kills); err != nil {
		fmt.Fprintln(os.Stderr, "reliability:", err)
		os.Exit(1)
	}
}

func run(kills int) error {
	dir, err := os.MkdirTemp("", "ambivia-reliability-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	program := filepath.Join(dir, "ambivia")
	if out, err := exec.Command("go", "build", "-o", program, "./cmd/ambivia").CombinedOutput(); err != nil {
		return fmt.Errorf("%w: %s", err, out)
	}
	for _, part := range []func(dir, program string) error{limits, func(dir, program string) error { return kill(dir, program, kills) }, stop, diskFull, readOnly} {
		if err := part(dir, program); err != nil {
			return err
		}
	}
	return nil
}

// limits runs each command on files at the limits.
func limits(dir, program string) error {
	fmt.Println("| file | command | answer | time | memory |\n| --- | --- | --- | --- | --- |")
	files := circuittest.AtTheLimit()
	names := make([]string, 0, len(files))
	for name := range files {
		names = append(names, name)
	}
	slices.Sort(names)
	paths := map[string]string{}
	for _, name := range names {
		data, err := circuit.Encode(files[name])
		if err != nil {
			return err
		}
		paths[name] = filepath.Join(dir, "limit.json"+fmt.Sprint(len(paths)))
		if err := os.WriteFile(paths[name], data, 0o600); err != nil {
			return err
		}
	}
	for _, kept := range []string{"inspect/testdata/cases/lamp-mesh", "inspect/testdata/cases/padded-devices", "trace/testdata/cases/chain10", "inspect/testdata/cases/eight-lights"} {
		name := filepath.Base(kept)
		names, paths[name] = append(names, name), "core/"+kept+".json"
	}
	for _, name := range names {
		for _, command := range [][]string{{"check"}, {"plan"}, {"trace"}, {"draw", "-o", filepath.Join(dir, "out.svg")}} {
			args := append([]string{command[0], paths[name]}, command[1:]...)
			ctx, cancel := context.WithTimeout(context.Background(), longest)
			cmd := exec.CommandContext(ctx, program, args...)
			var told bytes.Buffer
			cmd.Stdout, cmd.Stderr = io.Discard, &told
			began := time.Now()
			err := cmd.Run()
			took := time.Since(began)
			cancel()
			answer := "yes"
			if err != nil {
				answer = "refused"
				if cmd.ProcessState.ExitCode() != 2 || bytes.Count(bytes.TrimSpace(told.Bytes()), []byte("\n")) > 0 {
					answer = "**failed**: " + clip(told.String())
				}
			}
			used := cmd.ProcessState.SysUsage().(*syscall.Rusage).Maxrss
			fmt.Printf("| %s | %s | %s | %.2f s | %d MB |\n", name, command[0], answer, took.Seconds(), used>>10)
		}
	}
	fmt.Println()
	return nil
}

func clip(s string) string { return s[:min(len(s), 120)] }

// server is a program that answers.
type server struct {
	cmd  *exec.Cmd
	base string
}

var address = regexp.MustCompile(`http://[0-9.:]+/`)

// start starts a server on a database, and waits until it answers.
func start(program, data string) (*server, error) {
	cmd := exec.Command(program, "serve", "--address", "127.0.0.1:0", "--data", data)
	out, err := cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	var told bytes.Buffer
	cmd.Stderr = &told
	if err := cmd.Start(); err != nil {
		return nil, err
	}
	line := make([]byte, 200)
	n, _ := out.Read(line)
	base := address.FindString(string(line[:n]))
	if base == "" {
		_ = cmd.Wait()
		return nil, fmt.Errorf("the server does not start: %s", clip(told.String()))
	}
	return &server{cmd, base + "api/v1"}, nil
}

func (s *server) end(signal os.Signal) error {
	if err := s.cmd.Process.Signal(signal); err != nil {
		return err
	}
	err := s.cmd.Wait()
	var exit *exec.ExitError
	if errors.As(err, &exit) {
		return nil
	}
	return err
}

// ask sends JSON and returns the answer's fields and status.
func (s *server) ask(method, path string, body any) (map[string]any, int, error) {
	var sent io.Reader
	if body != nil {
		data, err := json.Marshal(body)
		if err != nil {
			return nil, 0, err
		}
		sent = bytes.NewReader(data)
	}
	request, err := http.NewRequest(method, s.base+path, sent)
	if err != nil {
		return nil, 0, err
	}
	if body != nil {
		request.Header.Set("Content-Type", "application/json")
	}
	client := http.Client{Timeout: longest}
	answer, err := client.Do(request)
	if err != nil {
		return nil, 0, err
	}
	defer answer.Body.Close()
	var fields map[string]any
	if raw, err := io.ReadAll(answer.Body); err == nil {
		_ = json.Unmarshal(raw, &fields) // lists are not looked at
	}
	return fields, answer.StatusCode, nil
}

// kill kills the server while somebody writes, again and again: whatever was acknowledged must be
// there.
func kill(dir, program string, kills int) error {
	data := filepath.Join(dir, "killed.db")
	acknowledged, lost, edits := 0, 0, 0
	var id, revision string
	for round := range kills {
		s, err := start(program, data)
		if err != nil {
			return fmt.Errorf("after %d kills: %w", round, err)
		}
		if id == "" {
			job, _, err := s.ask("POST", "/jobs", map[string]any{"name": "Kills"})
			if err != nil {
				return err
			}
			c, _, err := s.ask("POST", "/jobs/"+job["id"].(string)+"/circuits", map[string]any{"name": "Stair", "practice": "na"})
			if err != nil {
				return err
			}
			id = c["id"].(string)
		}
		now, status, err := s.ask("GET", "/circuits/"+id, nil)
		if err != nil || status != http.StatusOK {
			return fmt.Errorf("after %d kills: status %d, %v", round, status, err)
		}
		if number := int(now["number"].(float64)); number < acknowledged {
			lost += acknowledged - number
		}
		acknowledged, revision = int(now["number"].(float64)), now["revision"].(string)
		killed := make(chan error, 1)
		go func() {
			time.Sleep(time.Duration(20+round*7%180) * time.Millisecond)
			killed <- s.cmd.Process.Kill()
		}()
		for {
			c, status, err := s.ask("POST", "/circuits/"+id+"/edits", map[string]any{"base": revision, "edit": map[string]any{"op": "set-circuit", "name": fmt.Sprintf("Stair %d", edits)}})
			if err != nil || status != http.StatusOK {
				break
			}
			edits++
			acknowledged, revision = int(c["number"].(float64)), c["revision"].(string)
		}
		if err := <-killed; err != nil {
			return err
		}
		_ = s.cmd.Wait() // it was killed
	}
	fmt.Printf("| kills | acknowledged changes | lost |\n| --- | --- | --- |\n| %d | %d | %d |\n\n", kills, edits, lost)
	return nil
}

// stop tells the server to end while a tree of tests is being followed.
func stop(dir, program string) error {
	s, err := start(program, filepath.Join(dir, "stop.db"))
	if err != nil {
		return err
	}
	job, _, err := s.ask("POST", "/jobs", map[string]any{"name": "Stop"})
	if err != nil {
		return err
	}
	whole, err := circuit.Encode(circuittest.Chain(3))
	if err != nil {
		return err
	}
	answer, err := http.Post(s.base+"/jobs/"+job["id"].(string)+"/import", "application/octet-stream", bytes.NewReader(whole))
	if err != nil {
		return err
	}
	var c map[string]any
	if err := json.NewDecoder(answer.Body).Decode(&c); err != nil {
		return err
	}
	_ = answer.Body.Close()
	hidden, status, err := s.ask("POST", "/circuits/"+c["id"].(string)+"/house", nil)
	if err != nil || status != http.StatusCreated {
		return fmt.Errorf("no house: status %d, %v, %v", status, hidden["detail"], err)
	}
	go func() { _, _, _ = s.ask("GET", "/circuits/"+hidden["id"].(string)+"/trace/tree", nil) }()
	time.Sleep(time.Second)
	began := time.Now()
	if err := s.end(syscall.SIGTERM); err != nil {
		return err
	}
	fmt.Printf("Told to end in the middle of a tree of tests, the server ends after %.2f s.\n\n", time.Since(began).Seconds())
	return nil
}

// disk makes a small disk of its own, where that is allowed here.
func disk(dir, options string) (path string, undo func(), ok bool) {
	path = filepath.Join(dir, "disk")
	if err := os.MkdirAll(path, 0o700); err != nil {
		return "", nil, false
	}
	if err := syscall.Mount("tmpfs", path, "tmpfs", 0, options); err != nil {
		fmt.Printf("Not measured: a disk of its own cannot be made here (%v).\n\n", err)
		return "", nil, false
	}
	return path, func() { _ = syscall.Unmount(path, syscall.MNT_DETACH) }, true
}

// diskFull writes until the disk is full, and makes room by removing.
func diskFull(dir, program string) error {
	path, undo, ok := disk(dir, "size=24m")
	if !ok {
		return nil
	}
	defer undo()
	s, err := start(program, filepath.Join(path, "full.db"))
	if err != nil {
		return err
	}
	defer func() { _ = s.end(os.Kill) }()
	job, _, err := s.ask("POST", "/jobs", map[string]any{"name": "Full"})
	if err != nil {
		return err
	}
	whole, err := circuit.Encode(circuittest.AtTheLimit()["200 fat cables"])
	if err != nil {
		return err
	}
	written, code := 0, ""
	var made []string
	for written < 500 && code == "" {
		answer, err := http.Post(s.base+"/jobs/"+job["id"].(string)+"/import", "application/octet-stream", bytes.NewReader(whole))
		if err != nil {
			return err
		}
		var c map[string]any
		if err := json.NewDecoder(answer.Body).Decode(&c); err != nil {
			return err
		}
		_ = answer.Body.Close()
		if answer.StatusCode != http.StatusCreated {
			code = fmt.Sprint(c["code"])
			break
		}
		written++
		made = append(made, c["id"].(string))
	}
	removed := 0
	for _, id := range made[:len(made)/2] {
		_, status, err := s.ask("DELETE", "/circuits/"+id, nil)
		if err != nil {
			return err
		}
		if status == http.StatusNoContent {
			removed++
		}
	}
	_, emptied, err := s.ask("DELETE", "/bin", nil)
	if err != nil {
		return err
	}
	_, again, err := s.ask("POST", "/jobs", map[string]any{"name": "Room again"})
	if err != nil {
		return err
	}
	fmt.Printf("On a disk of 24 MB %d circuits of 180 kB were written, then the answer was `%s`. %d were removed and the bin emptied (status %d); the next write has status %d.\n\n", written, code, removed, emptied, again)
	return nil
}

// readOnly starts on a disk that nobody may write.
func readOnly(dir, program string) error {
	path, undo, ok := disk(dir, "size=24m")
	if !ok {
		return nil
	}
	defer undo()
	data := filepath.Join(path, "read.db")
	s, err := start(program, data)
	if err != nil {
		return err
	}
	if err := s.end(syscall.SIGTERM); err != nil {
		return err
	}
	if err := syscall.Mount("", path, "", syscall.MS_REMOUNT|syscall.MS_RDONLY, ""); err != nil {
		return err
	}
	out, err := exec.Command(program, "serve", "--address", "127.0.0.1:0", "--data", data).CombinedOutput()
	if err == nil {
		return errors.New("a server runs on a disk that it cannot write")
	}
	fmt.Printf("On a disk that cannot be written it says: `%s`\n", strings.TrimSpace(string(out)))
	return nil
}
