package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.check.Check;
import dev.mockbell.suite.Case;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class CheckFileTest {
    @TempDir
    Path folder;

    static List<Check> every() {
        return List.of(
                new Check.Valid(),
                new Check.NoFault(),
                new Check.FaultIs("HutFull"),
                new Check.Value("/a/b", "{$x}"),
                new Check.Value("/a/b", "1.5", "0.01"),
                new Check.Condition("count(//a) = 2"),
                new Check.Within(400),
                new Check.MessageText(Check.Match.HAS, "bunk"),
                new Check.MessageText(Check.Match.MATCHES, "b.nk"),
                new Check.HeaderIs("Content-Type", Check.Match.IS, "text/xml"),
                new Check.HeaderIs("Content-Type", Check.Match.MATCHES, "^text/"),
                new Check.StatusIs("2xx, 404, 500-502"),
                new Check.SizeAtMost(10_000),
                new Check.SameAsBaseline(),
                new Check.Present("/a/@b"),
                new Check.Count("//a", 1, Long.MAX_VALUE),
                new Check.Count("//a", 0, 3),
                new Check.Each("//a", true, ". > 0"),
                new Check.Each("//a", false, "@id"),
                new Check.Items("//a", List.of("x", "y"), true),
                new Check.Items("//a", List.of(), false),
                new Check.PartCount(2),
                new Check.PartIs("cairn", Check.PartIs.Fact.TYPE, "image/png"),
                new Check.PartIs("1", Check.PartIs.Fact.BYTES, "20"),
                new Check.PartIs("1", Check.PartIs.Fact.SHA256, "ab"),
                new Check.Secured(),
                new Check.Not(new Check.Count("//a", 2, 2)),
                new Check.Stopping(new Check.NoFault()),
                new Check.Stopping(new Check.Not(new Check.Condition("//a"))));
    }

    @ParameterizedTest
    @MethodSource("every")
    void whatIsWrittenIsReadAndTheSchemaAllowsIt(Check check) {
        ObjectNode file = new ObjectMapper().createObjectNode();
        file.put("title", "A case");
        ObjectNode node = file.putArray("checks").addObject();
        check.accept(new CheckFile(node));
        assertThat(FileKind.CASE.validator().validate(file)).isEmpty();
        assertThat(CheckFile.read(node)).isEqualTo(check);
        new ProjectStore()
                .saveCase(folder, new Case("a", "A", "", "c", "o", "", "<a/>", List.of(), List.of(check), List.of()));
        assertThat(StrictSchemas.flaws(folder, Path.of("..", "docs", "schemas")))
                .isEmpty();
    }

    @Test
    void noKindIsForgottenHere() {
        assertThat(every().stream().<Class<?>>map(Object::getClass).distinct().toList())
                .containsExactlyInAnyOrder(Check.class.getPermittedSubclasses());
    }
}
