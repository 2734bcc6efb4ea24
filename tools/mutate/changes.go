package main

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"strconv"
	"strings"
)

// change is one change of a file: the bytes from from to to become others.
type change struct {
	file     string
	line     int
	function string
	from, to int
	was      string
	becomes  string
}

// String names a change as it is printed and listed: its file, function and what becomes of what.
func (c change) String() string {
	becomes := c.becomes
	if becomes == "" {
		becomes = "nothing"
	}
	was, _, more := strings.Cut(c.was, "\n")
	if more {
		was += " …"
	}
	return fmt.Sprintf("%s:%d %s: %s → %s", filepath.Base(c.file), c.line, c.function, was, becomes)
}

// swaps are what an operator becomes: one that goes the other way, and of an order its boundary.
var swaps = map[token.Token][]string{
	token.ADD:  {"-"},
	token.SUB:  {"+"},
	token.MUL:  {"/"},
	token.QUO:  {"*"},
	token.REM:  {"*"},
	token.LSS:  {"<=", ">="},
	token.LEQ:  {"<", ">"},
	token.GTR:  {">=", "<="},
	token.GEQ:  {">", "<"},
	token.EQL:  {"!="},
	token.NEQ:  {"=="},
	token.LAND: {"||"},
	token.LOR:  {"&&"},
}

// changesOf lists the changes of a package's files, tests left out.
func changesOf(dir string) (out []change, err error) {
	files, err := filepath.Glob(filepath.Join(dir, "*.go"))
	if err != nil {
		return nil, err
	}
	for _, file := range files {
		if strings.HasSuffix(file, "_test.go") {
			continue
		}
		data, err := os.ReadFile(file)
		if err != nil {
			return nil, err
		}
		list, err := changesIn(file, data)
		if err != nil {
			return nil, err
		}
		out = append(out, list...)
	}
	return out, nil
}

// changesIn lists the changes of one file.
func changesIn(file string, data []byte) (out []change, err error) {
	set := token.NewFileSet()
	tree, err := parser.ParseFile(set, file, data, 0)
	if err != nil {
		return nil, err
	}
	for _, d := range tree.Decls {
		f, ok := d.(*ast.FuncDecl)
		if !ok || f.Body == nil {
			continue
		}
		add := func(from, to token.Pos, becomes string) {
			a, b := set.Position(from), set.Position(to)
			out = append(out, change{
				file:     file,
				line:     a.Line,
				function: f.Name.Name,
				from:     a.Offset,
				to:       b.Offset,
				was:      string(data[a.Offset:b.Offset]),
				becomes:  becomes,
			})
		}
		ast.Inspect(f.Body, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.BinaryExpr:
				for _, other := range swaps[n.Op] {
					add(n.OpPos, n.OpPos+token.Pos(len(n.Op.String())), other)
				}
			case *ast.BasicLit:
				if k, err := strconv.Atoi(n.Value); n.Kind == token.INT && err == nil {
					add(n.Pos(), n.End(), strconv.Itoa(k+1))
				}
			case *ast.Ident:
				if other := map[string]string{"true": "false", "false": "true"}[n.Name]; other != "" {
					add(n.Pos(), n.End(), other)
				}
			case *ast.UnaryExpr:
				if n.Op == token.NOT || n.Op == token.SUB {
					add(n.OpPos, n.OpPos+1, "")
				}
			case *ast.ExprStmt, *ast.IncDecStmt, *ast.SendStmt:
				add(n.Pos(), n.End(), "")
			case *ast.AssignStmt:
				if n.Tok != token.DEFINE { // what is defined is used
					add(n.Pos(), n.End(), "")
				}
			case *ast.BranchStmt:
				if n.Label == nil && n.Tok == token.CONTINUE {
					add(n.Pos(), n.End(), "break")
				}
			}
			return true
		})
	}
	return out, nil
}
