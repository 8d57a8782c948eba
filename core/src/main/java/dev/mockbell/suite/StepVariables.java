package dev.mockbell.suite;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** Each kind of step with what is written in it changed: its XPath, and its texts with expressions in braces. */
record StepVariables(UnaryOperator<String> xpath, UnaryOperator<String> text) implements Step.Visitor<Step> {
    List<Step> all(List<Step> steps) {
        return steps.stream().map(s -> s.accept(this)).toList();
    }

    @Override
    public Step call(Step.Call step) {
        return step.known().isEmpty() ? step : step.with(step.known().map(k -> k.with(table(k.table()))));
    }

    private DataTable table(DataTable table) {
        List<List<String>> rows =
                table.rows().stream().map(r -> r.stream().map(text).toList()).toList();
        return rows.equals(table.rows()) ? table : new DataTable(table.file(), table.columns(), rows, table.trouble());
    }

    @Override
    public Step pause(Step.Pause step) {
        return step;
    }

    @Override
    public Step group(Step.Group step) {
        return inGroup(step);
    }

    private Step.Group inGroup(Step.Group step) {
        return new Step.Group(step.name(), step.on(), all(step.inner()));
    }

    @Override
    public Step until(Step.Until step) {
        return new Step.Until(
                step.name(),
                step.on(),
                xpath.apply(step.condition()),
                step.times(),
                step.everyMillis(),
                all(step.inner()));
    }

    @Override
    public Step suite(Step.RunSuite step) {
        Map<String, String> values = new LinkedHashMap<>();
        step.values().forEach((name, value) -> values.put(name, text.apply(value)));
        return new Step.RunSuite(step.name(), step.on(), step.suite(), values);
    }

    @Override
    public Step choose(Step.Choose step) {
        return new Step.Choose(
                step.name(), step.on(), xpath.apply(step.condition()), inGroup(step.then()), inGroup(step.otherwise()));
    }

    @Override
    public Step forEach(Step.ForEach step) {
        Optional<DataTable> table = step.table().map(this::table);
        return new Step.ForEach(
                step.name(), step.on(), table, xpath.apply(step.nodes()), step.variable(), all(step.inner()));
    }
}
