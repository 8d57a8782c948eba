package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.RandomSchemas;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.TornMessages;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.BoundaryCases;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.w3c.dom.Document;

/** Schemas nobody thought of: what we say of a message is what a validator says that others wrote. */
class RandomSchemasTest {
    private static final List<String> VALUES = List.of(
            "",
            " ",
            "7",
            "-1",
            "07",
            "so",
            "kind1",
            "a b",
            "2027-02-02",
            "true",
            "1.50",
            "NF-100",
            "AB12",
            "north face",
            "x y z w v");

    /** More of them by hand: {@code -Dmockbell.seeds=5000}. */
    static LongStream seeds() {
        return LongStream.rangeClosed(1, Long.getLong("mockbell.seeds", 25));
    }

    private static List<MessageValidator.Breach> breaches(MessageOutline outline, String text) {
        return new MessageValidator(outline.schemas()).validate(outline, Xml.parse(text, "m", XmlLimits.MESSAGE));
    }

    private static int problems(Sheet sheet) {
        return sheet.root().orElseThrow().tally().problems();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void samplesAndBoundaryCasesAreWhatTheyClaimToBe(long seed) {
        String schema = RandomSchemas.of(seed);
        MessageOutline outline = Sheets.outline(schema);
        for (Detail detail : List.of(Detail.FULL, Detail.REQUIRED)) {
            String sample = SampleBuilder.text(outline, detail);
            assertThat(breaches(outline, sample))
                    .as("%s of %s%n%s", detail, schema, sample)
                    .isEmpty();
            Sheet sheet = Sheet.open(outline, sample);
            assertThat(problems(sheet)).as("%s%n%s", schema, sample).isZero();
            assertThat(sheet.text()).isEqualTo(sample);
        }
        assertThat(BoundaryCases.of(outline, new StopSignal()))
                .isNotEmpty()
                .allMatch(b -> b.accepted() == breaches(outline, b.body()).isEmpty());
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void theSheetFindsFaultExactlyWhereTheValidatorDoes(long seed) {
        String schema = RandomSchemas.of(seed);
        MessageOutline outline = Sheets.outline(schema);
        Random random = new Random(seed);
        Sheet sheet = Sheet.openReceived(
                outline, SampleBuilder.text(outline, random.nextBoolean() ? Detail.FULL : Detail.REQUIRED));
        for (int i = 0; i < 25; i++) {
            List<SheetRow> rows = Sheets.all(sheet);
            SheetRow row = rows.get(random.nextInt(rows.size()));
            String before = sheet.text();
            String did = edit(sheet, row, random);
            String text = sheet.text();
            List<MessageValidator.Breach> breaches = breaches(outline, text);
            assertThat(problems(sheet) == 0)
                    .as(
                            "seed %s, %s at %s: the sheet says %s, the validator %s%n%s%nfrom%n%s%nto%n%s",
                            seed,
                            did,
                            row.path(),
                            sheet.root().orElseThrow().tally().first(),
                            breaches,
                            schema,
                            before,
                            text)
                    .isEqualTo(breaches.isEmpty());
            assertThat(Sheets.pictures(Sheet.openReceived(outline, text)))
                    .as(
                            "seed %s, %s at %s %s%nfrom%n%s%nto%n%s%n%s",
                            seed, did, row.path(), row.label(), before, text, schema)
                    .isEqualTo(Sheets.pictures(sheet));
            if (!breaches.isEmpty() && random.nextInt(3) > 0) {
                // back, so that one flaw does not hide the next
                sheet = Sheet.openReceived(outline, before);
            }
        }
    }

    /** Not what a person does on the sheet but what comes in from elsewhere: elements moved, doubled, gone, renamed. */
    @ParameterizedTest
    @MethodSource("seeds")
    void messagesOfOthersAreJudgedAsTheValidatorDoes(long seed) {
        String schema = RandomSchemas.of(seed);
        MessageOutline outline = Sheets.outline(schema);
        Random random = new Random(seed);
        for (int i = 0; i < 25; i++) {
            Document document = Xml.parse(
                    SampleBuilder.text(outline, random.nextBoolean() ? Detail.FULL : Detail.REQUIRED),
                    "m",
                    XmlLimits.MESSAGE);
            String did = TornMessages.tear(document, schema, random);
            String text = XmlText.exact(document);
            Sheet sheet = Sheet.openReceived(outline, text);
            List<MessageValidator.Breach> breaches = breaches(outline, text);
            assertThat(sheet.text()).isEqualTo(text);
            assertThat(problems(sheet) == 0)
                    .as(
                            "seed %s, %s: the sheet says %s, the validator %s%n%s%nof%n%s",
                            seed, did, sheet.root().map(r -> r.tally().first()).orElse(""), breaches, schema, text)
                    .isEqualTo(breaches.isEmpty());
        }
    }

    private static String edit(Sheet sheet, SheetRow row, Random random) {
        int dice = random.nextInt(8);
        if (row.kind() == Kind.CHOICE && !row.options().isEmpty()) {
            String option = row.options().get(random.nextInt(row.options().size()));
            sheet.choose(row, option);
            return "choose " + option;
        }
        if (row.state() == State.LEFT_OUT) {
            sheet.include(row);
            return "include";
        }
        if (row.editable() && dice < 4) {
            String value = VALUES.get(random.nextInt(VALUES.size()));
            sheet.setValue(row, value);
            return "set “" + value + "”";
        }
        if (row.canBeNil() && dice == 4) {
            sheet.setNil(row, row.state() != State.NIL);
            return "nil";
        }
        if (row.canRepeatGroup() && dice == 5) {
            sheet.addGroup(row);
            return "group";
        }
        if (row.canRepeat() && dice > 4) {
            sheet.addRepeat(row);
            return "repeat";
        }
        List<Variant> variants = sheet.variants(row);
        if (!variants.isEmpty() && dice == 6) {
            Variant variant = variants.get(random.nextInt(variants.size()));
            sheet.become(row, variant);
            return "become " + variant;
        }
        if (row.removable() && dice > 3) {
            sheet.leaveOut(row);
            return "leave out";
        }
        return "nothing";
    }
}
