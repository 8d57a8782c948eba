package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import org.junit.jupiter.api.Test;

/** A message whose instructions say what is repeated, in a sheet. */
class TemplateKeepsTest {
    private static final String TEXT = "<st:Book xmlns:st=\"urn:northfell:stay\">\n  <st:hutId>{$a}</st:hutId>\n"
            + "  <?if 1 = 1?><st:nights>2</st:nights><?end?>\n"
            + "  <?for $g in $request//guest?><st:guest><st:name>{$g/name}</st:name><st:age>3</st:age></st:guest><?end?>\n"
            + "</st:Book>";

    private static Sheet open() {
        Contract stay = Contracts.stay();
        return Sheet.open(
                MessageOutline.of(
                        stay,
                        stay.operation("Book", null)
                                .orElseThrow()
                                .operation()
                                .input()
                                .orElseThrow()),
                TEXT);
    }

    @Test
    void instructionsStayWhereTheyAreWhenValuesAreEdited() {
        Sheet sheet = open();
        assertThat(sheet.text()).isEqualTo(TEXT);
        sheet.setValue(sheet.at("/Book/nights").orElseThrow(), "5");
        sheet.setValue(sheet.at("/Book/guest/age").orElseThrow(), "{$g/age}");
        assertThat(sheet.text()).isEqualTo(TEXT.replace(">2<", ">5<").replace("<st:age>3<", "<st:age>{$g/age}<"));
    }

    @Test
    void howOftenARowIsWrittenIsSeenAndChanged() {
        Sheet sheet = open();
        assertThat(sheet.at("/Book/guest").orElseThrow().instruction()).isEqualTo("for $g in $request//guest");
        assertThat(sheet.at("/Book/hutId").orElseThrow().instruction()).isEmpty();
        sheet.instruct(sheet.at("/Book/guest").orElseThrow(), "for $who in //guest[age > 18]");
        sheet.instruct(sheet.at("/Book/nights").orElseThrow(), "");
        assertThat(sheet.text())
                .isEqualTo(TEXT.replace("for $g in $request//guest?>", "for $who in //guest[age > 18]?>")
                        .replace("<?if 1 = 1?><st:nights>2</st:nights><?end?>", "<st:nights>2</st:nights>"));
        sheet.instruct(sheet.at("/Book/hutId").orElseThrow(), "if exists(//hutId)");
        assertThat(sheet.text()).contains("<?if exists(//hutId)?><st:hutId>{$a}</st:hutId><?end?>");
        String before = sheet.text();
        for (String wrong : new String[] {"each //guest", "for g in //guest", "if", "if 1 ?><a/>"}) {
            assertThatThrownBy(() -> sheet.instruct(sheet.at("/Book/guest").orElseThrow(), wrong))
                    .as(wrong)
                    .isInstanceOf(dev.mockbell.problem.Problem.class);
        }
        assertThatThrownBy(() -> sheet.instruct(sheet.root().orElseThrow(), "if true()"))
                .isInstanceOf(dev.mockbell.problem.Problem.class);
        assertThat(sheet.text()).isEqualTo(before);
    }
}
