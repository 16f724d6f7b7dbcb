package main

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"ambivia/core/automation"
	"ambivia/core/circuit"
	"ambivia/core/diagram"
	"ambivia/core/inspect"
	"ambivia/core/names"
	"ambivia/core/pdf"
	"ambivia/core/procedure"
	"ambivia/core/prove"
	"ambivia/core/retrofit"
)

// sheet is what draw was asked for.
type sheet struct {
	out, view, box, option, paper, job string
	plan                               planFiles
}

// views are what draw draws, with what they are.
var views = []struct{ id, text string }{
	{string(diagram.Wiring), "every conductor"}, {string(diagram.OneLine), "in one line"}, {string(diagram.OneBox), "one box from the front"}, {string(diagram.Difference), "what an option changes"},
	{"drawings", "all of these on sheets, .pdf"}, {"order", "the work order of an option, .pdf"}, {"annex", "what that leaves out: whole wirings, the way back, box fill, labels, .pdf"}, {"labels", "labels for conductors, as found or of an option, .pdf"},
	{"pocket", "one sheet of an option, to be folded and carried, .pdf"},
}

func drawCommand() *cobra.Command {
	var s sheet
	cmd := &cobra.Command{
		Use:   "draw FILE -o OUT.svg|.pdf",
		Short: "Draw a circuit, or an option of its plan: the whole wiring, one line, one box, a work order",
		Args:  cobra.ExactArgs(1),
		RunE:  func(cmd *cobra.Command, args []string) error { return s.draw(cmd.Context(), args[0]) },
	}
	var known []string
	for _, v := range views {
		known = append(known, v.id+" ("+v.text+")")
	}
	f := cmd.Flags()
	f.StringVarP(&s.out, "output", "o", "", "file to write, .svg or .pdf")
	f.StringVar(&s.view, "view", "", "what to draw: "+strings.Join(known, ", ")+"; wiring for .svg and drawings for .pdf where nothing is said")
	f.StringVar(&s.box, "box", "", "the box to draw")
	f.StringVar(&s.option, "option", "", "draw the circuit as this option of the plan would make it")
	f.StringVar(&s.paper, "paper", "", "a4 or letter; the practice's own where nothing is said")
	f.StringVar(&s.job, "job", "", "the job's name, for title blocks")
	s.plan.flags(cmd)
	if err := cmd.MarkFlagRequired("output"); err != nil {
		panic(err)
	}
	return cmd
}

func (s *sheet) draw(ctx context.Context, path string) error {
	kind := filepath.Ext(s.out)
	if kind != ".svg" && kind != ".pdf" {
		return fmt.Errorf("%s: drawings are written as .svg or .pdf", s.out)
	}
	c, err := readCircuit(path)
	if err != nil {
		return err
	}
	if circuit.Blank(c.Name) {
		c.Name = "Circuit"
	}
	var p *procedure.Procedure
	if s.option != "" {
		if p, err = s.plan.procedure(ctx, path, c, s.option); err != nil {
			return err
		}
	}
	view := s.view
	if view == "" {
		view = map[string]string{".svg": "wiring", ".pdf": "drawings"}[kind]
	}
	var b bytes.Buffer
	if err := s.write(ctx, &b, kind, view, c, p); err != nil {
		return err
	}
	if err := os.WriteFile(s.out, b.Bytes(), 0o644); err != nil {
		return oneLine(s.out, err)
	}
	return nil
}

func (s *sheet) write(ctx context.Context, w io.Writer, kind, view string, c *circuit.Circuit, p *procedure.Procedure) error {
	size := pdf.SizeFor(c)
	switch s.paper {
	case "":
	case string(pdf.A4), string(pdf.Letter):
		size = pdf.Size(s.paper)
	default:
		return fmt.Errorf("--paper %s: the sizes are a4 and letter", s.paper)
	}
	info := pdf.Info{Job: s.job, Circuit: c.Name, Date: time.Now()}
	show := diagram.Show{View: diagram.View(view), Box: s.box, Title: c.Name}
	shown := c
	if p != nil {
		show.Found, show.Planned, show.AsPlanned, show.Moved = p.Found, p.Planned, true, p.Option.Moved()
		shown = p.After
	} else {
		show.Found = inspect.Compile(c)
	}
	switch {
	case !slices.ContainsFunc(views, func(v struct{ id, text string }) bool { return v.id == view }):
		return fmt.Errorf("--view %s: there is no such view", view)
	case (view == "order" || view == "annex" || view == "pocket" || view == "difference") && p == nil:
		return fmt.Errorf("--view %s needs the --option that it is of", view)
	case kind == ".svg" && (view == "order" || view == "annex" || view == "labels" || view == "pocket" || view == "drawings"):
		return fmt.Errorf("--view %s is written as .pdf", view)
	case view == "order":
		proof, _ := prove.Sequence(ctx, c, p.Option) // an order is useful without it
		return pdf.Order(w, p, proof, info, size)
	case view == "annex":
		return pdf.Annex(w, p, info, size)
	case view == "labels" && p == nil:
		return pdf.FoundLabels(w, show.Found, info, size)
	case view == "labels":
		return pdf.Labels(w, p, info, size)
	case view == "pocket":
		return pdf.Pocket(w, p, info, size)
	case view == "drawings" && p != nil:
		return pdf.Drawings(w, p.Planned, info, size)
	case view == "drawings":
		return pdf.Drawings(w, show.Found, info, size)
	}
	scene, err := show.Scene()
	if err != nil {
		return fmt.Errorf("--box %s: %w", s.box, err)
	}
	if kind == ".pdf" {
		return pdf.Scene(w, shown, scene, info, size)
	}
	say := names.For(shown)
	return scene.File(w, diagram.Block{Job: s.job, Circuit: c.Name, Date: info.Date.Format(time.DateOnly), Cautions: say.Caution + " " + say.WhoMay})
}

func stepsCommand() *cobra.Command {
	var option string
	var back int
	var plan planFiles
	cmd := &cobra.Command{
		Use:   "steps FILE --option ID",
		Short: "List the steps of an option of the plan, its materials, and the way back",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, err := readCircuit(args[0])
			if err != nil {
				return err
			}
			p, err := plan.procedure(cmd.Context(), args[0], c, option)
			if err != nil {
				return err
			}
			if back >= 0 {
				if back > len(p.Steps) {
					return fmt.Errorf("--back %d: there are %d steps", back, len(p.Steps))
				}
				if p, err = p.Back(back); err != nil {
					return err
				}
				return printJSON(cmd.OutOrStdout(), map[string]any{"steps": p.Steps})
			}
			return printJSON(cmd.OutOrStdout(), map[string]any{"steps": p.Steps, "cards": p.Cards(), "visits": procedure.Visits(p.Cards()), "materials": p.Materials(), "rooms": p.Rooms(), "labels": p.Labels()})
		},
	}
	cmd.Flags().StringVar(&option, "option", "", "an id of plan's answer")
	cmd.Flags().IntVar(&back, "back", -1, "the way back after so many steps instead")
	plan.flags(cmd)
	if err := cmd.MarkFlagRequired("option"); err != nil {
		panic(err)
	}
	return cmd
}

// offered finds an option of a circuit's plan.
func (f *planFiles) offered(path string, found *inspect.Compiled, request retrofit.Request, option string) (*retrofit.Option, error) {
	o := procedure.Offer(found, request, option)
	if o == nil {
		return nil, fmt.Errorf("%s: the plan offers no option %q", path, option)
	}
	return o, nil
}

// procedure finds an option of a circuit's plan and works out its steps, with its links made in the preferred way.
func (f *planFiles) procedure(ctx context.Context, path string, c *circuit.Circuit, option string) (*procedure.Procedure, error) {
	request, err := f.request()
	if err != nil {
		return nil, err
	}
	found := inspect.Compile(c)
	o, err := f.offered(path, found, request, option)
	if err != nil {
		return nil, err
	}
	p := procedure.For(found, o, request.Library)
	sets, err := automation.For(ctx, o, request.Library)
	if err != nil {
		return nil, err
	}
	automation.Of(sets, "").Enter(p)
	return p, nil
}
