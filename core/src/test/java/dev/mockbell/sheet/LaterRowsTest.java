package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.sheet.SheetRow.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;

/** Very many of a kind are laid out when somebody looks, and then as any others are. */
class LaterRowsTest {
    private static final MessageOutline OUTLINE = Sheets.outline(Sheets.root("""
            <xs:element name='closure' maxOccurs='unbounded'><xs:complexType><xs:sequence>
              <xs:element name='trail' type='xs:string'/><xs:element name='grade' type='xs:int'/>
              <xs:element name='until' type='xs:date' minOccurs='0'/></xs:sequence></xs:complexType></xs:element>"""));

    private static String message(int many) {
        StringBuilder text = new StringBuilder("<t:Root xmlns:t='urn:t'>");
        for (int i = 0; i < many; i++) {
            text.append("<t:closure><t:trail>Trail ")
                    .append(i)
                    .append("</t:trail><t:grade>")
                    .append(i % 6)
                    .append("</t:grade></t:closure>");
        }
        return text.append("</t:Root>").toString();
    }

    private static SheetRow gathered(Sheet sheet) {
        return sheet.root().orElseThrow().children().get(0);
    }

    @Test
    void askingForTheGatheredRowLaysOutNoneOfThem() {
        SheetRow many = gathered(Sheet.openReceived(OUTLINE, message(5_000)));
        assertThat(many.kind()).isEqualTo(Kind.REPEATS);
        assertThat(many.count()).isEqualTo(5_000);
        assertThat(many.gist()).isEqualTo("× 5000");
        assertThat(many.children()).isInstanceOf(LaterRows.class);
        assertThat(many.children().isEmpty()).as("and asks for none").isFalse();
    }

    @Test
    void laidOutTheyAreAsFewerWouldBe() {
        // so many are laid out at once, so many when they are opened
        Sheet few = Sheet.openReceived(OUTLINE, message(150));
        Sheet many = Sheet.openReceived(OUTLINE, message(300));
        List<SheetRow> atOnce = gathered(few).children();
        List<SheetRow> later = gathered(many).children();
        assertThat(gathered(few).children()).isNotInstanceOf(LaterRows.class);
        assertThat(later).hasSize(300);
        for (int i = 0; i < atOnce.size(); i++) {
            SheetRow one = atOnce.get(i);
            SheetRow other = later.get(i);
            assertThat(other.path()).isEqualTo(one.path());
            assertThat(other.index()).isEqualTo(one.index());
            assertThat(other.children()).extracting(SheetRow::label).containsExactly("trail", "grade", "until");
            assertThat(other.children())
                    .extracting(SheetRow::value)
                    .isEqualTo(one.children().stream().map(SheetRow::value).toList());
        }
        assertThat(many.at("/Root/closure[299]/trail").orElseThrow().value()).isEqualTo("Trail 298");
    }

    /** A row of one of very many is not remembered by its element; what is edited in it is found all the same. */
    @Test
    void anEditInOneOfThemIsSeenInItsRowAndInTheOthersNot() {
        MessageOutline outline = Sheets.outline(Sheets.root("""
                <xs:element name='closure' maxOccurs='unbounded'><xs:complexType><xs:sequence>
                  <xs:element name='trail' type='xs:string'/>
                  <xs:element name='way'><xs:complexType><xs:sequence>
                    <xs:element name='leg' maxOccurs='3'><xs:complexType><xs:sequence>
                      <xs:element name='to' type='xs:string'/><xs:element name='grade' type='xs:int' minOccurs='0'/>
                    </xs:sequence></xs:complexType></xs:element>
                  </xs:sequence></xs:complexType></xs:element>
                </xs:sequence></xs:complexType></xs:element>"""));
        String one =
                "<t:closure><t:trail>T</t:trail><t:way><t:leg><t:to>A</t:to></t:leg><t:leg><t:to>B</t:to></t:leg></t:way></t:closure>";
        Sheet sheet = Sheet.openReceived(outline, "<t:Root xmlns:t='urn:t'>" + one.repeat(300) + "</t:Root>");
        SheetRow deep = sheet.at("/Root/closure[120]/way/leg[2]/to").orElseThrow();
        SheetRow beside = sheet.at("/Root/closure[121]/way").orElseThrow();
        assertThat(sheet.standing(deep)).contains(deep);
        assertThat(sheet.holder(deep).orElseThrow().label()).isEqualTo("leg");

        sheet.setValue(deep, "Skarn");
        SheetRow leg = sheet.holder(deep).orElseThrow();
        sheet.include(leg.children().get(1));
        sheet.addRepeat(leg);

        assertThat(sheet.at("/Root/closure[120]/way/leg[2]/to").orElseThrow().value())
                .isEqualTo("Skarn");
        assertThat(sheet.standing(deep).orElseThrow().value()).isEqualTo("Skarn");
        assertThat(sheet.at("/Root/closure[120]/way/leg[3]/to")).isPresent();
        assertThat(sheet.at("/Root/closure[120]/way/leg[2]/grade").orElseThrow().state())
                .isEqualTo(SheetRow.State.PRESENT);
        assertThat(sheet.at("/Root/closure[121]/way").orElseThrow().children()).isEqualTo(beside.children());
        assertThat(sheet.at("/Root/closure[300]/way/leg[2]/to").orElseThrow().value())
                .isEqualTo("B");
        // the two above them count what has been laid out
        assertThat(Sheets.pictures(sheet).stream().skip(2))
                .isEqualTo(Sheets.pictures(Sheet.openReceived(outline, sheet.text())).stream()
                        .skip(2)
                        .toList());
    }

    @Test
    void severalMayAskAtOnceAndGetTheSameRows() throws Exception {
        SheetRow many = gathered(Sheet.openReceived(OUTLINE, message(3_000)));
        ExecutorService pool = Executors.newFixedThreadPool(4);
        try {
            Callable<List<SheetRow>> asking = () -> {
                List<SheetRow> below = new ArrayList<>();
                many.children().forEach(c -> below.addAll(c.children()));
                return below;
            };
            List<Future<List<SheetRow>>> all = pool.invokeAll(List.of(asking, asking, asking, asking));
            List<SheetRow> first = all.get(0).get();
            assertThat(first).hasSize(9_000);
            for (Future<List<SheetRow>> other : all) {
                assertThat(other.get()).isEqualTo(first);
            }
        } finally {
            pool.shutdownNow();
        }
    }
}
