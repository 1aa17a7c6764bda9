package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	"github.com/spf13/cobra"

	"handwerk/core/calc"
	"handwerk/core/calc/describe"
	"handwerk/core/calculator"
	"handwerk/core/input"
)

func calcCommand() *cobra.Command {
	var schema, example, page bool
	cmd := &cobra.Command{
		Use: "calc [NAME]", Short: "List the calculators, or run one: JSON in, JSON out", Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			all := calc.All()
			if page {
				_, _ = fmt.Fprint(cmd.OutOrStdout(), describe.Page(all))
				return nil
			}
			if len(args) == 0 {
				for _, c := range all.List() {
					_, _ = fmt.Fprintf(cmd.OutOrStdout(), "%-16s %s\n", c.Name, c.Purpose)
				}
				return nil
			}
			c, ok := all.Named(args[0])
			if !ok {
				return fmt.Errorf("there is no calculator %q; there are: %s", args[0], names(all))
			}
			switch {
			case schema:
				text, err := describe.Schema(c)
				if err != nil {
					return err
				}
				_, _ = fmt.Fprintln(cmd.OutOrStdout(), string(text))
				return nil
			case example:
				_, _ = fmt.Fprintln(cmd.OutOrStdout(), c.Example)
				return nil
			}
			return runCalc(cmd, c)
		},
	}
	cmd.Flags().BoolVar(&schema, "schema", false, "print the JSON Schema of input and output")
	cmd.Flags().BoolVar(&page, "page", false, "print the catalogue as Markdown (docs/calculators.md)")
	cmd.Flags().BoolVar(&example, "example", false, "print a worked example's input")
	return cmd
}

func runCalc(cmd *cobra.Command, c calculator.Calculator) error {
	raw, err := io.ReadAll(io.LimitReader(cmd.InOrStdin(), calculator.MaxInput+1))
	if err != nil {
		return err
	}
	result, err := c.Run(raw)
	var faults input.Fields
	if errors.As(err, &faults) {
		for _, f := range faults {
			_, _ = fmt.Fprintln(cmd.ErrOrStderr(), f.Error())
		}
		return errSaid
	}
	if err != nil {
		return err
	}
	var pretty bytes.Buffer
	if err := json.Indent(&pretty, result, "", "  "); err != nil {
		return err
	}
	_, _ = fmt.Fprintln(cmd.OutOrStdout(), pretty.String())
	return nil
}

func names(all calc.Catalogue) string {
	var list []string
	for _, c := range all.List() {
		list = append(list, c.Name)
	}
	return strings.Join(list, ", ")
}
