package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.completion.Completions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.RandomSchemas;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.TornMessages;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.validation.Fit;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.TagScan;
import dev.mockbell.xml.TagScan.Kind;
import dev.mockbell.xml.TagScan.Tag;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.w3c.dom.Document;

/** What is proposed for messages of schemas that nobody thought of. */
class RandomHelpsTest {
    static LongStream seeds() {
        return LongStream.rangeClosed(1, Long.getLong("mockbell.seeds", 20));
    }

    /** Whatever stands in a valid message is among what is proposed at its place. */
    @ParameterizedTest
    @MethodSource("seeds")
    void completionProposesWhatStands(long seed) {
        String schema = RandomSchemas.of(seed);
        MessageOutline outline = Sheets.outline(schema);
        String text = SampleBuilder.text(outline, Detail.FULL);
        TagScan scan = TagScan.of(text);
        for (Tag tag : scan.tags()) {
            if (tag.kind() == Kind.CLOSE) {
                assertThat(labels(outline, text.substring(0, tag.start()) + "</"))
                        .as("at the end of %s in %s", tag.name(), text)
                        .containsExactly("/" + tag.name());
                continue;
            }
            String before = text.substring(0, tag.start());
            int end = tag.kind() == Kind.OPEN ? scan.partner(tag).orElseThrow().end() : tag.end();
            assertThat(labels(outline, before + "<", text.substring(end)))
                    .as("before %s in %s%n%s", tag.name(), text, schema)
                    .contains(tag.name());
            String written = text.substring(tag.start(), tag.end());
            written.lines().limit(1).forEach(line -> attributes(outline, before, line, schema));
        }
    }

    private static void attributes(MessageOutline outline, String before, String tag, String schema) {
        var found = java.util.regex.Pattern.compile(" ([^\\s=]+)=\"([^\"]*)\"").matcher(tag);
        while (found.find()) {
            String name = found.group(1);
            if (!name.startsWith("xmlns") && !name.startsWith("xsi:")) {
                assertThat(labels(outline, before + tag.substring(0, found.start()) + " "))
                        .as("%s of %s%n%s", name, tag, schema)
                        .contains(name);
            }
        }
    }

    private static List<String> labels(MessageOutline outline, String before) {
        return labels(outline, before, "");
    }

    private static List<String> labels(MessageOutline outline, String before, String after) {
        return Completions.at(outline, before + after, before.length()).proposals().stream()
                .map(Completions.Proposal::label)
                .toList();
    }

    /** A proposal mends and never makes worse, and there is nothing left to propose for what has been mended. */
    @ParameterizedTest
    @MethodSource("seeds")
    void aMendingProposalIsOne(long seed) {
        String schema = RandomSchemas.of(seed);
        MessageOutline outline = Sheets.outline(schema);
        Random random = new Random(seed);
        for (int i = 0; i < 10; i++) {
            Document document = Xml.parse(SampleBuilder.text(outline, Detail.FULL), "m", XmlLimits.MESSAGE);
            String did = TornMessages.tear(document, schema, random);
            String text = XmlText.exact(document);
            Fit fit = Fit.of(outline, text);
            assertThat(fit.isGood())
                    .as("seed %s, %s: %s", seed, did, fit.misfits())
                    .isEqualTo(new MessageValidator(outline.schemas())
                            .validate(outline, Xml.parse(text, "m", XmlLimits.MESSAGE))
                            .isEmpty());
            if (fit.steps().isEmpty()) {
                assertThat(fit.proposal()).isEqualTo(text);
                continue;
            }
            Fit again = Fit.of(outline, fit.proposal());
            assertThat(again.misfits())
                    .as("seed %s, %s, %s%n%s%nof%n%s", seed, did, fit.steps(), fit.proposal(), schema)
                    .hasSizeLessThanOrEqualTo(fit.misfits().size());
            assertThat(again.steps())
                    .as("seed %s, %s: once is enough%n%s", seed, did, fit.proposal())
                    .isEmpty();
        }
    }

    /** A path to anything that a full message has leads there in one without it, putting in what is on the way. */
    @ParameterizedTest
    @MethodSource("seeds")
    void aPathPutsInWhatItLeadsTo(long seed) {
        String schema = RandomSchemas.of(seed);
        MessageOutline outline = Sheets.outline(schema);
        Sheet full = Sheet.openReceived(outline, SampleBuilder.text(outline, Detail.FULL));
        List<SheetRow> leaves = Sheets.all(full).stream()
                .filter(r ->
                        r.editable() && r.state() == State.PRESENT && !r.path().isEmpty())
                .filter(r -> r.kind() == SheetRow.Kind.VALUE || r.kind() == SheetRow.Kind.ATTRIBUTE)
                .toList();
        for (SheetRow leaf : leaves) {
            assertThat(full.ensure(leaf.path()).map(SheetRow::id)).contains(leaf.id());
            if (leaf.path().matches(".*\\[([2-9]|1\\d+)\\].*") && !leaf.canRepeat()) {
                // how a choice is taken a second time is not for a path to say
                continue;
            }
            Sheet sheet = Sheet.openReceived(outline, SampleBuilder.text(outline, Detail.REQUIRED));
            Optional<SheetRow> found = sheet.ensure(leaf.path());
            assertThat(found)
                    .as("%s in%n%s%nof%n%s", leaf.path(), sheet.text(), schema)
                    .isPresent();
            sheet.setValue(found.get(), "set here");
            assertThat(sheet.row(found.get().id()).map(SheetRow::value))
                    .as(leaf.path())
                    .contains("set here");
            assertThat(sheet.text().split("set here", -1)).hasSize(2);
        }
        assertThat(full.text()).isEqualTo(SampleBuilder.text(outline, Detail.FULL));
    }
}
