// Command style says where the code is written in a way that is hard to read: literals of four fields and more without
// the fields' names, maps from true and false to words instead of a choice, loops that run over a field. Functions that
// branch a great deal or are long are named as a hint: long may be right.
//
//	go run ./tools/style ./...
//
// It ends with status 1 where something is to be mended.
package main

import (
	"errors"
	"flag"
	"fmt"
	"go/ast"
	"go/token"
	"go/types"
	"os"
	"slices"
	"strings"

	"golang.org/x/tools/go/packages"
)

// Limits: of fields without names, and of lines and branches of a function that is not named as a hint.
const (
	fewFields    = 3
	fewLines     = 90
	fewBranching = 25
)

func main() {
	flag.Parse()
	faults, hints, err := look(".", flag.Args()...)
	if err != nil {
		fmt.Fprintln(os.Stderr, "style:", err)
		os.Exit(2)
	}
	for _, h := range hints {
		fmt.Println("hint:", h)
	}
	for _, f := range faults {
		fmt.Println(f)
	}
	if len(faults) > 0 {
		os.Exit(1)
	}
}

// look reads packages, their tests too, and lists what is to be mended and what may be.
func look(dir string, patterns ...string) (faults, hints []string, err error) {
	mode := packages.NeedName | packages.NeedFiles | packages.NeedSyntax | packages.NeedTypes | packages.NeedTypesInfo |
		packages.NeedImports | packages.NeedDeps
	list, err := packages.Load(&packages.Config{Mode: mode, Tests: true, Dir: dir}, patterns...)
	if err != nil {
		return nil, nil, err
	}
	if packages.PrintErrors(list) > 0 {
		return nil, nil, errors.New("it does not compile")
	}
	for _, p := range list {
		for _, f := range p.Syntax {
			if !strings.HasSuffix(p.Fset.Position(f.Pos()).Filename, ".go") {
				continue // what the tests are started by
			}
			r := reader{set: p.Fset, info: p.TypesInfo}
			ast.Inspect(f, r.read)
			faults, hints = append(faults, r.faults...), append(hints, r.hints...)
		}
	}
	// A package's files are read once more with its tests.
	slices.Sort(faults)
	slices.Sort(hints)
	return slices.Compact(faults), slices.Compact(hints), nil
}

// reader reads one file.
type reader struct {
	set           *token.FileSet
	info          *types.Info
	faults, hints []string
}

// fault notes what is to be mended at a place.
func (r *reader) fault(at token.Pos, format string, args ...any) {
	r.faults = append(r.faults, fmt.Sprintf("%s: %s", r.set.Position(at), fmt.Sprintf(format, args...)))
}

// read looks at one node of the tree, and goes on below it.
func (r *reader) read(n ast.Node) bool {
	switch n := n.(type) {
	case *ast.CompositeLit:
		r.literal(n)
	case *ast.RangeStmt:
		if _, ok := n.Value.(*ast.SelectorExpr); ok {
			r.fault(n.Pos(), "the loop runs over a field; give its values a name of their own")
		}
	case *ast.FuncDecl:
		r.function(n)
	}
	return true
}

// literal looks at a literal: a struct's fields are named, and true and false are chosen between.
func (r *reader) literal(c *ast.CompositeLit) {
	t := r.info.TypeOf(c)
	if t == nil {
		return
	}
	if p, ok := t.Underlying().(*types.Pointer); ok {
		t = p.Elem() // in a list of pointers
	}
	switch t := t.Underlying().(type) {
	case *types.Struct:
		if len(c.Elts) <= fewFields {
			return
		}
		if _, keyed := c.Elts[0].(*ast.KeyValueExpr); !keyed {
			r.fault(c.Pos(), "%d fields without names", len(c.Elts))
		}
	case *types.Map:
		if t.Key().Underlying() == types.Typ[types.Bool] && len(c.Elts) > 0 {
			r.fault(c.Pos(), "a map from true and false; write the choice")
		}
	}
}

// function names what is long or branches a great deal.
func (r *reader) function(f *ast.FuncDecl) {
	if f.Body == nil {
		return
	}
	branches := 0
	ast.Inspect(f.Body, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.IfStmt, *ast.ForStmt, *ast.RangeStmt, *ast.CaseClause, *ast.CommClause:
			branches++
		case *ast.BinaryExpr:
			if n.Op == token.LAND || n.Op == token.LOR {
				branches++
			}
		}
		return true
	})
	lines := r.set.Position(f.End()).Line - r.set.Position(f.Pos()).Line
	if lines > fewLines || branches > fewBranching {
		r.hints = append(r.hints, fmt.Sprintf("%s: %s has %d lines and %d branches", r.set.Position(f.Pos()), f.Name.Name,
			lines, branches))
	}
}
