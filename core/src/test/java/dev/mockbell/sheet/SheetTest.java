package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.List;
import org.junit.jupiter.api.Test;

class SheetTest {
    private final Contract stay = Contracts.stay();
    private final MessageOutline outline = MessageOutline.of(
            stay, stay.operation("Book", null).orElseThrow().operation().input().orElseThrow());
    private final Sheet sheet = Sheet.open(outline, SampleBuilder.text(outline, Detail.REQUIRED));

    private SheetRow row(String label) {
        return find(sheet.root().orElseThrow(), label);
    }

    private static SheetRow find(SheetRow row, String label) {
        if (row.label().equals(label)) {
            return row;
        }
        return row.children().stream()
                .map(c -> find(c, label))
                .filter(r -> r != null)
                .findFirst()
                .orElse(null);
    }

    private List<MessageValidator.Breach> breaches() {
        return new MessageValidator(stay.schemas()).validate(outline, Xml.parse(sheet.text(), "m", XmlLimits.MESSAGE));
    }

    @Test
    void everyPlaceOfTheContractHasARow() {
        assertThat(sheet.root().orElseThrow().children())
                .extracting(SheetRow::label)
                .containsExactly("@channel", "hutId", "nights", "guest", "board", "note", "contact");
        assertThat(row("board").state()).isEqualTo(State.LEFT_OUT);
        assertThat(row("board").optional()).isTrue();
        assertThat(row("hutId").optional()).isFalse();
    }

    @Test
    void typingAValueChangesTheXml() {
        sheet.setValue(row("hutId"), "NF-07");
        assertThat(sheet.text()).contains(">NF-07<");
        assertThat(row("hutId").problem()).isEmpty();
    }

    @Test
    void aWrongValueIsToldByItsFacetAndAnExpressionIsNot() {
        sheet.setValue(row("nights"), "99");
        assertThat(row("nights").problem())
                .hasValueSatisfying(p -> assertThat(p).contains("more than 14"));
        sheet.setValue(row("nights"), "{$nights}");
        assertThat(row("nights").problem()).isEmpty();
    }

    @Test
    void anOptionalPartGoesInAtItsPlace() {
        sheet.include(row("note"));
        sheet.include(row("board"));
        assertThat(sheet.text().indexOf("board")).isLessThan(sheet.text().indexOf("note"));
        assertThat(breaches()).isEmpty();
    }

    @Test
    void leavingOutAndPuttingInAgainBringsTheValuesBack() {
        sheet.include(row("note"));
        sheet.setValue(row("note"), "two ropes");
        sheet.leaveOut(row("note"));
        assertThat(sheet.text()).doesNotContain("two ropes");
        sheet.include(row("note"));
        assertThat(row("note").value()).isEqualTo("two ropes");
    }

    @Test
    void aRepeatIsAddedBehindAndBoundedByTheContract() {
        for (int i = 0; i < 5; i++) {
            sheet.addRepeat(sheet.at("/Book/guest" + (i == 0 ? "" : "[" + (i + 1) + "]"))
                    .orElseThrow());
        }
        SheetRow last = sheet.at("/Book/guest[6]").orElseThrow();
        assertThat(last.count()).isEqualTo(6);
        assertThat(last.canRepeat()).isFalse();
        assertThat(breaches()).isEmpty();
    }

    @Test
    void anotherBranchOfAChoiceTakesThePlaceAndTheFirstComesBackWithItsValue() {
        sheet.include(row("contact"));
        sheet.setValue(row("phone"), "+47 1");
        sheet.choose(row("one of"), "email");
        assertThat(sheet.text()).contains("email>").doesNotContain("phone>");
        sheet.choose(row("one of"), "phone");
        assertThat(row("phone").value()).isEqualTo("+47 1");
        assertThat(breaches()).isEmpty();
    }

    @Test
    void nilAndEmptyAndLeftOutAreToldApart() {
        sheet.include(row("note"));
        sheet.setNil(row("note"), true);
        assertThat(row("note").state()).isEqualTo(State.NIL);
        assertThat(breaches()).isEmpty();
        sheet.setNil(row("note"), false);
        sheet.setValue(row("note"), "");
        assertThat(row("note").state()).isEqualTo(State.PRESENT);
        assertThat(row("note").value()).isEmpty();
    }

    @Test
    void attributesAreSwitchedAndTyped() {
        sheet.include(row("@channel"));
        sheet.setValue(row("@channel"), "web");
        assertThat(sheet.text()).contains("channel=\"web\"");
        sheet.leaveOut(row("@channel"));
        assertThat(sheet.text()).doesNotContain("channel");
    }

    @Test
    void whatTheContractDoesNotKnowStaysAndIsShown() {
        String odd =
                "<st:Book xmlns:st=\"urn:northfell:stay\" odd=\"1\"><!-- mine --><st:hutId>NF-01</st:hutId><st:nights>1</st:nights>"
                        + "<st:guest><st:name>A</st:name><st:age>1</st:age></st:guest><extra><deep>x</deep></extra><?go on?></st:Book>";
        Sheet other = Sheet.open(outline, odd);
        assertThat(other.text()).isEqualTo(odd);
        SheetRow extra = find(other.root().orElseThrow(), "extra");
        assertThat(extra.type()).isEqualTo("not in the contract");
        other.setValue(find(other.root().orElseThrow(), "hutId"), "NF-02");
        assertThat(other.text()).isEqualTo(odd.replace("NF-01", "NF-02"));
    }

    @Test
    void aMissingRequiredPartIsToldAndCanBePutIn() {
        Sheet bare = Sheet.open(outline, "<st:Book xmlns:st=\"urn:northfell:stay\"/>");
        SheetRow nights = find(bare.root().orElseThrow(), "nights");
        assertThat(nights.problem()).contains("the contract requires this element");
        bare.include(find(bare.root().orElseThrow(), "hutId"));
        bare.include(find(bare.root().orElseThrow(), "guest"));
        bare.include(find(bare.root().orElseThrow(), "nights"));
        assertThat(new MessageValidator(stay.schemas())
                        .validate(outline, Xml.parse(bare.text(), "m", XmlLimits.MESSAGE)))
                .isEmpty();
    }

    @Test
    void fillingInEverythingKeepsWhatWasTyped() {
        sheet.setValue(row("hutId"), "NF-42");
        sheet.fill(Detail.FULL);
        assertThat(sheet.text()).contains("NF-42").contains("board>").contains("contact>");
        sheet.fill(Detail.REQUIRED);
        assertThat(sheet.text()).contains("NF-42").doesNotContain("board>");
    }

    @Test
    void aRowPointsToItsElementByAPath() {
        sheet.addRepeat(row("guest"));
        assertThat(sheet.at("/Book/guest[2]/name").orElseThrow().path()).isEqualTo("/Book/guest[2]/name");
    }
}
