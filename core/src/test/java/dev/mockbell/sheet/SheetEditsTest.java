package dev.mockbell.sheet;

import static dev.mockbell.sheet.Sheets.inside;
import static dev.mockbell.sheet.Sheets.row;
import static dev.mockbell.sheet.Sheets.tight;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What can be done to a message on its sheet, over content models of every shape. */
class SheetEditsTest {
    private static final String GUESTS =
            "<xs:element name='guest' maxOccurs='unbounded'><xs:complexType><xs:sequence><xs:element name='name' type='xs:string'/><xs:element name='age' type='xs:int' minOccurs='0'/></xs:sequence><xs:attribute name='member' type='xs:int'/></xs:complexType></xs:element>";

    private static String guest(String name) {
        return "<guest><name>" + name + "</name></guest>";
    }

    private static String message(String content) {
        return "<Root xmlns='urn:t'>" + content + "</Root>";
    }

    @Test
    void aGroupThatMayBeLeftOutComesAndGoesAsAWhole() {
        Sheet sheet = inside(
                "<xs:element name='a' type='xs:int'/><xs:sequence minOccurs='0'><xs:element name='from' type='xs:int'/><xs:element name='to' type='xs:int'/><xs:element name='note' type='xs:string' minOccurs='0'/></xs:sequence>",
                message("<a>1</a>"));
        assertThat(sheet.root().orElseThrow().tally().problems()).isZero();
        sheet.include(row(sheet, "note"));
        assertThat(tight(sheet)).containsSubsequence("from>", "to>", "note>");
        assertThat(Sheets.breaches(sheet)).isEmpty();
        sheet.setValue(row(sheet, "from"), "77");
        sheet.leaveOut(row(sheet, "to"));
        assertThat(tight(sheet)).isEqualTo("<Root xmlns=\"urn:t\"><a>1</a></Root>");
        sheet.include(row(sheet, "to"));
        assertThat(row(sheet, "from").value()).isEqualTo("77");
        assertThat(Sheets.breaches(sheet)).isEmpty();
    }

    @Test
    void aGroupThatRepeatsGetsOneMoreStanding() {
        Sheet sheet = inside(
                "<xs:sequence maxOccurs='2'><xs:element name='k' type='xs:string'/><xs:element name='v' type='xs:int'/></xs:sequence>",
                message("<k>a</k><v>1</v>"));
        assertThat(row(sheet, "v").canRepeatGroup()).isTrue();
        sheet.addGroup(row(sheet, "k"));
        assertThat(Sheets.breaches(sheet)).isEmpty();
        assertThat(sheet.root().orElseThrow().children()).hasSize(4);
        assertThat(row(sheet, "v").canRepeatGroup()).isFalse();
        sheet.leaveOut(sheet.root().orElseThrow().children().get(3));
        assertThat(tight(sheet)).isEqualTo("<Root xmlns=\"urn:t\"><k>a</k><v>1</v></Root>");
    }

    @Test
    void aChoiceThatMayBeLeftOutRemembersItsBranch() {
        Sheet sheet = inside(
                "<xs:choice minOccurs='0' maxOccurs='3'><xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:int'/></xs:choice>",
                message("<b>7</b>"));
        sheet.leaveOut(row(sheet, "one of"));
        assertThat(sheet.text()).doesNotContain("7");
        assertThat(row(sheet, "one of").state()).isEqualTo(State.LEFT_OUT);
        sheet.include(row(sheet, "one of"));
        assertThat(row(sheet, "b").value()).isEqualTo("7");
        sheet.addRepeat(row(sheet, "one of"));
        assertThat(sheet.root().orElseThrow().children()).hasSize(2);
        assertThat(Sheets.breaches(sheet)).isEmpty();
    }

    @Test
    void manyOfOneKindAreGatheredWithTheirCount() {
        Sheet sheet = inside(GUESTS, message(guest("A").repeat(300)));
        SheetRow many = sheet.root().orElseThrow().children().get(0);
        assertThat(many.kind()).isEqualTo(Kind.REPEATS);
        assertThat(many.count()).isEqualTo(300);
        assertThat(many.gist()).isEqualTo("× 300");
        assertThat(many.children()).hasSize(300);
        sheet.addRepeat(many);
        assertThat(sheet.root().orElseThrow().children().get(0).count()).isEqualTo(301);
    }

    @Test
    void anEditLeavesTheRowsOfOtherPartsAsTheyAre() {
        Sheet sheet = inside(GUESTS, message(guest("A") + guest("B") + guest("C")));
        List<SheetRow> before = sheet.root().orElseThrow().children();
        sheet.setValue(before.get(1).children().get(1), "Ines");
        List<SheetRow> after = sheet.root().orElseThrow().children();
        assertThat(after.get(0)).isSameAs(before.get(0));
        assertThat(after.get(1)).isNotSameAs(before.get(1));
        assertThat(after.get(1).id()).isEqualTo(before.get(1).id());
        assertThat(after.get(2)).isSameAs(before.get(2));
    }

    @Test
    void repeatsAreDuplicatedMovedAndTakenAway() {
        Sheet sheet = inside(GUESTS, message(guest("A") + "<!-- b -->" + guest("B")));
        sheet.duplicate(sheet.at("/Root/guest[2]").orElseThrow());
        assertThat(tight(sheet)).contains(guest("A") + "<!-- b -->" + guest("B") + guest("B"));
        assertThat(sheet.move(sheet.at("/Root/guest[1]").orElseThrow(), 1)).isTrue();
        assertThat(sheet.at("/Root/guest[1]/name").orElseThrow().value()).isEqualTo("B");
        assertThat(sheet.at("/Root/guest[2]/name").orElseThrow().value()).isEqualTo("A");
        assertThat(sheet.move(sheet.at("/Root/guest[1]").orElseThrow(), -1)).isFalse();
        sheet.remove(sheet.at("/Root/guest[2]").orElseThrow());
        assertThat(sheet.text()).doesNotContain(">A<").contains("<!-- b -->");
        sheet.addRepeat(sheet.at("/Root/guest[1]").orElseThrow());
        assertThat(sheet.text()).as("what was taken away comes back first").contains(">A<");
    }

    @Test
    void aTableFillsRepeatsByTheNamesOfItsColumns() {
        Sheet sheet = inside(GUESTS, message(guest("A") + guest("B")));
        int filled = sheet.pasteRows(
                sheet.at("/Root/guest[2]").orElseThrow(),
                List.of(List.of("age", "name", "@member"), List.of("34", "Ines", "7"), List.of("", "Tomas")));
        assertThat(filled).isEqualTo(2);
        assertThat(tight(sheet))
                .isEqualTo(
                        "<Root xmlns=\"urn:t\">" + guest("A")
                                + "<guest member=\"7\"><name>Ines</name><age>34</age></guest><guest><name>Tomas</name></guest></Root>");
        sheet.pasteRows(sheet.at("/Root/guest[1]").orElseThrow(), List.of(List.of("1", "Kari", "20")));
        assertThat(tight(sheet)).contains("<guest member=\"1\"><name>Kari</name><age>20</age></guest>");
        assertThatThrownBy(() ->
                        sheet.pasteRows(sheet.at("/Root/guest[1]").orElseThrow(), List.of(List.of("1", "2", "3", "4"))))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("3 fields");
    }

    @Test
    void aWildcardTakesAnyXmlThatItsNamespacesAllow() {
        Sheet sheet = inside(
                "<xs:element name='a' type='xs:int'/><xs:any namespace='##other' processContents='skip' minOccurs='0'/>",
                message("<a>1</a>"));
        SheetRow any = sheet.root().orElseThrow().children().get(1);
        assertThat(any.kind()).isEqualTo(Kind.WILDCARD);
        assertThatThrownBy(() -> sheet.pasteXml(any, "<x xmlns='urn:t'/>"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("cannot stand here");
        sheet.pasteXml(any, "<x xmlns='urn:x'><y k='1'>free</y></x>");
        assertThat(Sheets.breaches(sheet)).isEmpty();
        assertThat(row(sheet, "y").problem()).isEmpty();
        sheet.setValue(row(sheet, "y"), "changed");
        assertThat(sheet.text()).contains("<y k=\"1\">changed</y>");
    }

    @Test
    void xmlIsPastedWhereItsNameHasAPlace() {
        Sheet sheet = inside(GUESTS + "<xs:element name='note' type='xs:string' minOccurs='0'/>", message(guest("A")));
        SheetRow root = sheet.root().orElseThrow();
        sheet.pasteXml(root, "<note xmlns='urn:t'>mind the step</note>");
        sheet.pasteXml(sheet.root().orElseThrow(), "<guest xmlns='urn:t'><name>B</name></guest>");
        assertThat(tight(sheet)).containsSubsequence(">A<", ">B<", "mind the step");
        sheet.pasteXml(
                sheet.at("/Root/guest[1]").orElseThrow(), "<p:guest xmlns:p='urn:t'><p:name>C</p:name></p:guest>");
        assertThat(sheet.at("/Root/guest[1]/name").orElseThrow().value()).isEqualTo("C");
        assertThat(Sheets.breaches(sheet)).isEmpty();
        assertThatThrownBy(() -> sheet.pasteXml(sheet.root().orElseThrow(), "<other/>"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("no place for <other>");
        assertThatThrownBy(() -> sheet.pasteXml(sheet.root().orElseThrow(), "<note"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("not well-formed");
    }

    @Test
    void aPartIsCopiedAsXmlThatStandsAlone() {
        Sheet sheet = inside(
                "<xs:element name='a' type='xs:QName'/>",
                "<t:Root xmlns:t='urn:t' xmlns:q='urn:q' xmlns:unused='urn:u'><t:a>q:name</t:a></t:Root>");
        assertThat(sheet.xml(row(sheet, "a"))).isEqualTo("<t:a xmlns:q=\"urn:q\" xmlns:t=\"urn:t\">q:name</t:a>");
        assertThat(row(sheet, "a").prefixedPath()).isEqualTo("/t:Root/t:a");
        assertThat(sheet.at("/t:Root/t:a").orElseThrow().value()).isEqualTo("q:name");
        assertThat(row(sheet, "a").problem())
                .as("a qualified name is judged with the prefixes around it")
                .isEmpty();
        sheet.setValue(row(sheet, "a"), "nobody:name");
        assertThat(row(sheet, "a").problem()).isPresent();
    }

    @Test
    void textBetweenElementsIsAFieldWhereItIsAllowedAndAFlawWhereNot() {
        String mixed =
                "<xs:element name='Root'><xs:complexType mixed='true'><xs:sequence><xs:element name='b' type='xs:string' minOccurs='0' maxOccurs='9'/></xs:sequence></xs:complexType></xs:element>";
        Sheet sheet = Sheets.sheet(mixed, message("Dear <b>Ines</b>, two nights.<b>x</b>"));
        assertThat(sheet.root().orElseThrow().children())
                .extracting(SheetRow::value)
                .containsExactly("Dear", "Ines", ", two nights.", "x");
        sheet.setValue(sheet.root().orElseThrow().children().get(2), ", three nights.");
        assertThat(sheet.text()).contains("</b>, three nights.<b>");
        sheet.addText(sheet.root().orElseThrow(), "Bye");
        assertThat(Sheets.breaches(sheet)).isEmpty();

        Sheet strict = inside("<xs:element name='a' type='xs:int'/>", message("stray<a>1</a>"));
        assertThat(strict.root().orElseThrow().tally().first()).contains("does not allow text");
        strict.remove(strict.root().orElseThrow().children().get(0));
        assertThat(Sheets.breaches(strict)).isEmpty();
    }

    @Test
    void aRowBecomesAnotherTypeOrASubstituteAndBack() {
        String schema =
                "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='stay' type='t:Stay'/><xs:element ref='t:pay'/></xs:sequence></xs:complexType></xs:element>"
                        + "<xs:complexType name='Stay'><xs:sequence><xs:element name='nights' type='xs:int'/></xs:sequence></xs:complexType>"
                        + "<xs:complexType name='LongStay'><xs:complexContent><xs:extension base='t:Stay'><xs:sequence><xs:element name='cleaning' type='xs:boolean'/></xs:sequence></xs:extension></xs:complexContent></xs:complexType>"
                        + "<xs:element name='pay' abstract='true' type='xs:string'/><xs:element name='card' substitutionGroup='t:pay' type='xs:string'/><xs:element name='cash' substitutionGroup='t:pay' type='xs:string'/>";
        Sheet sheet = Sheets.sheet(schema, message("<stay><nights>9</nights></stay><card>1</card>"));
        List<Variant> types = sheet.variants(row(sheet, "stay"));
        assertThat(types).extracting(Variant::title).containsExactly("Stay", "LongStay");
        sheet.become(row(sheet, "stay"), types.get(1));
        assertThat(row(sheet, "nights").value()).isEqualTo("9");
        assertThat(row(sheet, "cleaning").state()).isEqualTo(State.PRESENT);
        assertThat(Sheets.breaches(sheet)).isEmpty();
        sheet.become(row(sheet, "stay"), sheet.variants(row(sheet, "stay")).get(0));
        assertThat(sheet.text()).doesNotContain("cleaning").contains(">9<");

        List<Variant> pays = sheet.variants(row(sheet, "card"));
        assertThat(pays).extracting(Variant::title).containsExactly("card", "cash");
        sheet.become(row(sheet, "card"), pays.get(1));
        assertThat(tight(sheet)).endsWith("<cash>1</cash></Root>");
        assertThat(Sheets.breaches(sheet)).isEmpty();
    }

    @Test
    void recursionIsOpenedOneLevelAtATime() {
        String schema =
                "<xs:element name='Root' type='t:Node'/><xs:complexType name='Node'><xs:sequence><xs:element name='name' type='xs:string'/><xs:element name='child' type='t:Node' minOccurs='0'/></xs:sequence></xs:complexType>";
        Sheet sheet = Sheets.sheet(schema, message("<name>a</name>"));
        sheet.include(row(sheet, "child"));
        sheet.include(sheet.at("/Root/child").orElseThrow().children().get(1));
        assertThat(sheet.at("/Root/child/child/name")).isPresent();
        assertThat(Sheets.breaches(sheet)).isEmpty();
    }

    @Test
    void fillingAndEmptyingLosesNothingThatTheContractDoesNotKnow() {
        String odd = message("<!-- mine --><guest><name><![CDATA[A & B]]></name><?go on?></guest>");
        Sheet sheet = inside(GUESTS + "<xs:element name='note' type='xs:string' minOccurs='0'/>", odd);
        sheet.fill(Detail.FULL);
        assertThat(sheet.text()).contains("<!-- mine -->", "<![CDATA[A & B]]>", "<?go on?>", "note", "age", "member=");
        assertThat(sheet.root().orElseThrow().tally().leftOut()).isZero();
        sheet.setValue(row(sheet, "age"), "61");
        sheet.fill(Detail.REQUIRED);
        assertThat(tight(sheet)).isEqualTo(odd.replace('\'', '"'));
        sheet.fill(Detail.FULL);
        assertThat(row(sheet, "age").value()).isEqualTo("61");
        sheet.keepWhatDiffers();
        assertThat(sheet.text()).contains(">61<").doesNotContain("note").doesNotContain("member");
        sheet.setValue(row(sheet, "name"), "C < D");
        assertThat(sheet.text()).contains("<![CDATA[C < D]]>");
    }

    @Test
    void nilKeepsWhatWasInsideForWhenItIsTakenBack() {
        Sheet sheet = inside("<xs:element name='a' type='xs:int' nillable='true'/>", message("<a>5</a>"));
        sheet.setNil(row(sheet, "a"), true);
        assertThat(row(sheet, "a").state()).isEqualTo(State.NIL);
        assertThat(Sheets.breaches(sheet)).isEmpty();
        sheet.setNil(row(sheet, "a"), false);
        assertThat(row(sheet, "a").value()).isEqualTo("5");
    }

    @Test
    void whatHasNoPlaceIsAFlawAndSoAreTooFew() {
        Sheet sheet =
                inside("<xs:element name='a' type='xs:int' minOccurs='2' maxOccurs='3'/>", message("<a>1</a><b>2</b>"));
        assertThat(row(sheet, "a").problem())
                .hasValueSatisfying(p -> assertThat(p).contains("at least 2"));
        assertThat(row(sheet, "b").problem())
                .hasValueSatisfying(p -> assertThat(p).contains("does not know"));
        assertThat(sheet.root().orElseThrow().tally().problems()).isEqualTo(2);
    }

    @Test
    void bracesInAnAnswerAreText() {
        MessageOutline outline = Sheets.outline(Sheets.root("<xs:element name='a' type='xs:int'/>"));
        Sheet answer = Sheet.openReceived(outline, message("<a>{1</a>"));
        assertThat(row(answer, "a").problem())
                .hasValueSatisfying(p -> assertThat(p).contains("“{1”"));
        Sheet request = Sheet.open(outline, message("<a>{1</a>"));
        assertThat(row(request, "a").problem()).contains("A brace is not closed");
        request.setValue(row(request, "a"), "{{7}}");
        assertThat(row(request, "a").problem())
                .hasValueSatisfying(p -> assertThat(p).contains("“{7}”"));
    }

    @Test
    void aMessageNestedTooDeepForRowsIsRefusedInWordsAndOneJustUnderIsNot() throws InterruptedException {
        MessageOutline outline = Sheets.outline("<xs:element name='Root' type='xs:anyType'/>");
        assertThatThrownBy(() -> Sheet.open(outline, message("<x>".repeat(600) + "</x>".repeat(600))))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("nested more than");
        int[] rows = {0};
        Thread usual = new Thread(
                null,
                () -> rows[0] = Sheet.open(outline, message("<x>".repeat(450) + "</x>".repeat(450)))
                        .root()
                        .orElseThrow()
                        .tally()
                        .rows(),
                "usual-stack",
                1 << 20);
        usual.start();
        usual.join();
        assertThat(rows[0]).isEqualTo(451);
    }

    @Test
    void oneStrayElementDoesNotHideThePlacesOfTheOthers() {
        for (String last : List.of("", "<xs:any namespace='##other' processContents='lax' minOccurs='0'/>")) {
            Sheet sheet = inside(
                    "<xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:int'/>" + last,
                    message("<a>1</a><stray/><b>2</b>"));
            assertThat(sheet.root().orElseThrow().tally().problems()).isEqualTo(1);
            assertThat(row(sheet, "b").type()).isEqualTo("xs:int");
        }
    }

    @Test
    void theSheetOfAWholeEnvelopeIsThatOfItsPayloadAndTheRestStays() {
        String envelope =
                "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Header><x/></e:Header><e:Body><Root xmlns='urn:t'><a>1</a></Root></e:Body></e:Envelope>";
        Sheet sheet = inside(
                "<xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:int' minOccurs='0'/>", envelope);
        assertThat(sheet.root().orElseThrow().label()).isEqualTo("Root");
        assertThat(sheet.root().orElseThrow().removable()).isFalse();
        sheet.setValue(row(sheet, "a"), "2");
        sheet.include(row(sheet, "b"));
        assertThat(tight(sheet))
                .startsWith(envelope.substring(0, envelope.indexOf("<Root")).replace('\'', '"'))
                .contains("<a>2</a><b>")
                .endsWith("</Root></e:Body></e:Envelope>");
    }

    @Test
    void repeatedChoicesAreAllTakenOutAndAnEmptyOneAsksForNothing() {
        Sheet sheet = inside(
                "<xs:choice minOccurs='0' maxOccurs='9'><xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:int'/></xs:choice><xs:choice/>",
                message("<a>1</a><b>2</b><a>3</a>"));
        assertThat(sheet.root().orElseThrow().tally().problems()).isZero();
        sheet.fill(Detail.REQUIRED);
        assertThat(sheet.root().orElseThrow().tally().problems()).isZero();
        assertThat(sheet.text()).doesNotContain("1").doesNotContain("3");
        assertThat(Sheets.breaches(sheet)).isEmpty();
    }

    @Test
    void identifiersThatAreSwitchedOnDifferAndListsOfNamesKnowTheirPrefixes() {
        Sheet sheet = inside(
                "<xs:element name='g' maxOccurs='3'><xs:complexType><xs:attribute name='id' type='xs:ID'/></xs:complexType></xs:element><xs:element name='names'><xs:simpleType><xs:list itemType='xs:QName'/></xs:simpleType></xs:element>",
                "<t:Root xmlns:t='urn:t' xmlns:q='urn:q'><t:g/><t:g/><t:names>t:x q:y</t:names></t:Root>");
        assertThat(row(sheet, "names").problem()).isEmpty();
        sheet.fill(Detail.FULL);
        assertThat(Sheets.breaches(sheet)).isEmpty();
    }

    @Test
    void attributesAreAddedAsTheyAreWrittenInATag() {
        Sheet sheet = Sheets.inside(
                "<xs:element name='leg'><xs:complexType><xs:attribute name='km' type='xs:int'/><xs:anyAttribute namespace='##other' processContents='lax'/></xs:complexType></xs:element>",
                "<t:Root xmlns:t='urn:t'><t:leg/></t:Root>");
        sheet.addAttributes(Sheets.row(sheet, "leg"), "  km=\"12\" o:note='a &amp; b' xmlns:o=\"urn:o\" ");
        assertThat(sheet.text())
                .isEqualTo(
                        "<t:Root xmlns:t=\"urn:t\"><t:leg xmlns:o=\"urn:o\" km=\"12\" o:note=\"a &amp; b\"/></t:Root>");
        assertThat(Sheets.breaches(sheet)).isEmpty();
        assertThat(sheet.root().orElseThrow().tally().problems()).isZero();
        sheet.addAttributes(Sheets.row(sheet, "leg"), "km='13' odd='1'");
        assertThat(Sheets.row(sheet, "@km").value()).isEqualTo("13");
        assertThat(Sheets.row(sheet, "@odd").problem()).isPresent();
        String before = sheet.text();
        for (String bad : new String[] {"", "km", "km=1", "a='1' a='2'", "/><t:leg a='1'", "q:a='1'", "a='<'"}) {
            assertThatThrownBy(() -> sheet.addAttributes(Sheets.row(sheet, "leg"), bad))
                    .as(bad)
                    .isInstanceOf(Problem.class)
                    .hasMessageStartingWith("These are not attributes");
        }
        assertThat(sheet.text()).isEqualTo(before);
    }

    @Test
    void anotherReadingOfTheMessageRemembersWhatWasTakenOut() {
        String particles = "<xs:element name='leg' maxOccurs='9'><xs:complexType><xs:sequence>"
                + "<xs:choice minOccurs='0'><xs:element name='cash' type='xs:int'/><xs:element name='card' type='xs:string'/></xs:choice>"
                + "<xs:element name='remark' type='xs:string' minOccurs='0' nillable='true'/></xs:sequence>"
                + "<xs:attribute name='km' type='xs:int'/></xs:complexType></xs:element>";
        Sheet sheet = Sheets.inside(
                particles,
                "<t:Root xmlns:t='urn:t'><t:leg km='4'/><t:leg km='5'><t:card>C-9</t:card><t:remark>late</t:remark></t:leg></t:Root>");
        SheetRow second = sheet.at("/Root/leg[2]").orElseThrow();
        List<SheetRow> parts = second.children();
        sheet.leaveOut(parts.get(0));
        sheet.choose(parts.get(1), "cash");
        sheet.setNil(sheet.at("/Root/leg[2]/remark").orElseThrow(), true);
        Sheet again = Sheet.open(sheet.outline(), sheet.text());
        again.remember(sheet);
        SheetRow leg = again.at("/Root/leg[2]").orElseThrow();
        again.include(leg.children().get(0));
        again.choose(leg.children().get(1), "card");
        again.setNil(again.at("/Root/leg[2]/remark").orElseThrow(), false);
        assertThat(Sheets.tight(again).replaceAll(" xmlns:xsi=\"[^\"]*\"", ""))
                .endsWith("<t:leg km=\"5\"><t:card>C-9</t:card><t:remark>late</t:remark></t:leg></t:Root>");
        Sheet other = Sheets.inside(particles, "<t:Root xmlns:t='urn:t'/>");
        other.remember(sheet);
        assertThat(other.text()).isEqualTo("<t:Root xmlns:t=\"urn:t\"/>");
    }
}
