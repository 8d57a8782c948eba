package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sheet.SheetRow.State;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Content models of every shape, laid beside messages. */
class SheetShapesTest {
    private static Sheet sheet(String schema, String message) {
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema(schema)));
        assertThat(contract.findings()).isEmpty();
        MessageOutline outline = MessageOutline.of(
                contract,
                contract.operation("Do", null).orElseThrow().operation().input().orElseThrow());
        return Sheet.open(outline, message);
    }

    private static List<String> labels(Sheet sheet) {
        return sheet.root().orElseThrow().children().stream()
                .map(r -> r.label() + (r.state() == State.LEFT_OUT ? "-" : "") + (r.index() > 0 ? r.index() : ""))
                .toList();
    }

    private static SheetRow child(Sheet sheet, int index) {
        return sheet.root().orElseThrow().children().get(index);
    }

    @Test
    void aRepeatedGroupIsShownRoundByRound() {
        Sheet sheet = sheet(
                "<xs:element name='Root'><xs:complexType><xs:sequence maxOccurs='unbounded'><xs:element name='k' type='xs:string'/><xs:element name='v' type='xs:int' minOccurs='0'/></xs:sequence></xs:complexType></xs:element>",
                "<Root xmlns='urn:t'><k>a</k><v>1</v><k>b</k><k>c</k><v>3</v></Root>");
        assertThat(labels(sheet)).containsExactly("k", "v", "k", "v-", "k", "v");
    }

    @Test
    void anAllGroupIsShownInTheMessagesOrder() {
        Sheet sheet = sheet(
                "<xs:element name='Root'><xs:complexType><xs:all><xs:element name='a' type='xs:int'/><xs:element name='b' type='xs:int'/><xs:element name='c' type='xs:int' minOccurs='0'/></xs:all></xs:complexType></xs:element>",
                "<Root xmlns='urn:t'><b>2</b><a>1</a></Root>");
        assertThat(labels(sheet)).containsExactly("b", "a", "c-");
    }

    @Test
    void aWildcardTakesWhatIsThere() {
        Sheet sheet = sheet(
                "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='a' type='xs:int'/><xs:any namespace='##other' processContents='lax' minOccurs='0' maxOccurs='2'/></xs:sequence></xs:complexType></xs:element>",
                "<Root xmlns='urn:t'><a>1</a><x xmlns='urn:x'>free</x></Root>");
        assertThat(labels(sheet)).containsExactly("a", "x");
        sheet.setValue(child(sheet, 1), "changed");
        assertThat(sheet.text()).contains("<x xmlns=\"urn:x\">changed</x>");
    }

    @Test
    void aDerivedTypeShowsItsOwnFields() {
        Sheet sheet = sheet(
                "<xs:element name='Root' type='t:B'/><xs:complexType name='B'><xs:sequence><xs:element name='a' type='xs:int'/></xs:sequence></xs:complexType>"
                        + "<xs:complexType name='D'><xs:complexContent><xs:extension base='t:B'><xs:sequence><xs:element name='more' type='xs:int'/></xs:sequence></xs:extension></xs:complexContent></xs:complexType>",
                "<Root xmlns='urn:t' xmlns:t='urn:t' xmlns:xsi='http://www.w3.org/2001/XMLSchema-instance' xsi:type='t:D'><a>1</a><more>2</more></Root>");
        assertThat(labels(sheet)).containsExactly("a", "more");
        assertThat(child(sheet, 1).type()).isEqualTo("xs:int");
    }

    @Test
    void aSubstituteStandsInThePlaceOfItsHead() {
        Sheet sheet = sheet(
                "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element ref='t:Head'/></xs:sequence></xs:complexType></xs:element>"
                        + "<xs:element name='Head' abstract='true' type='xs:anyType'/><xs:element name='Leaf' substitutionGroup='t:Head' type='xs:int'/>",
                "<Root xmlns='urn:t'><Leaf>x</Leaf></Root>");
        assertThat(labels(sheet)).containsExactly("Leaf");
        assertThat(child(sheet, 0).problem())
                .hasValueSatisfying(p -> assertThat(p).contains("int"));
    }

    @Test
    void aFixedValueIsHeldTo() {
        Sheet sheet = sheet(
                "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='f' type='xs:string' fixed='always'/></xs:sequence></xs:complexType></xs:element>",
                "<Root xmlns='urn:t'><f>never</f></Root>");
        assertThat(child(sheet, 0).problem()).contains("the contract fixes this value to “always”");
    }

    @Test
    void aMissingChoiceIsToldWithItsBranches() {
        Sheet sheet = sheet(
                "<xs:element name='Root'><xs:complexType><xs:choice><xs:element name='a' type='xs:int'/><xs:sequence><xs:element name='b' type='xs:int'/><xs:element name='c' type='xs:int'/></xs:sequence></xs:choice></xs:complexType></xs:element>",
                "<Root xmlns='urn:t'/>");
        SheetRow choice = child(sheet, 0);
        assertThat(choice.problem()).contains("the contract requires one of these");
        assertThat(choice.options()).containsExactly("a", "b + c");
        sheet.choose(choice, "b + c");
        assertThat(sheet.text()).contains("b>").contains("c>");
        assertThat(child(sheet, 0).problem()).isEmpty();
    }

    @Test
    void enumerationsAndBooleansOfferTheirValues() {
        Sheet sheet = sheet(
                "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='b' type='xs:boolean'/><xs:element name='e'><xs:simpleType><xs:restriction base='xs:string'><xs:enumeration value='x'/><xs:enumeration value='y'/></xs:restriction></xs:simpleType></xs:element></xs:sequence></xs:complexType></xs:element>",
                "<Root xmlns='urn:t'><b>true</b><e>x</e></Root>");
        assertThat(child(sheet, 0).options()).containsExactly("true", "false");
        assertThat(child(sheet, 1).options()).containsExactly("x", "y");
    }

    @Test
    void anAnonymousMessageIsShownAsItIs() {
        Contract contract =
                Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>")));
        Sheet sheet = Sheet.open(MessageOutline.empty(contract), "<x><y>1</y><y>2</y></x>");
        assertThat(sheet.root().orElseThrow().children())
                .extracting(r -> r.label() + r.index())
                .containsExactly("y1", "y2");
        assertThat(sheet.root().orElseThrow().children())
                .extracting(SheetRow::type)
                .containsOnly("any element");
    }

    @Test
    void anEmptyBodyHasNoRows() {
        Sheet sheet = sheet("<xs:element name='Root' type='xs:int'/>", "");
        assertThat(sheet.root()).isEmpty();
        assertThat(sheet.text()).isEmpty();
    }
}
