package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder.Detail;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Generated messages full of what no contract speaks of: neither opening nor editing one loses any of it. */
class SheetKeepsTest {
    private static final String SCHEMA = Sheets.root(
            "<xs:element name='a' type='xs:string'/><xs:element name='leg' minOccurs='0' maxOccurs='unbounded'><xs:complexType mixed='true'><xs:sequence><xs:element name='hut' type='xs:string' minOccurs='0'/><xs:any namespace='##other' processContents='lax' minOccurs='0'/></xs:sequence><xs:attribute name='km' type='xs:decimal'/></xs:complexType></xs:element><xs:element name='z' type='xs:int' minOccurs='0'/>");

    private final MessageOutline outline = Sheets.outline(SCHEMA);
    private final List<String> odd = new ArrayList<>();

    private String oddity(Random random) {
        int n = odd.size();
        String made = switch (random.nextInt(7)) {
            case 0 -> "<!-- note " + n + " with <markup> & -- no, not that -->".replace("-- no", "- no");
            case 1 -> "<?keep this=\"" + n + "\"?>";
            case 2 -> "<x" + n + " xmlns=\"urn:other\" k=\"a&amp;b\"><deep>  spaced  </deep></x" + n + ">";
            case 3 -> "<p:y" + n + " k=\"2\" p:q=\"1\" xmlns:p=\"urn:p\" b=\"0\"/>";
            case 4 -> "\n\n\t  \n";
            case 5 -> "<!---->";
            default -> "<odd" + n + "/>";
        };
        odd.add(made);
        return made;
    }

    private String sprinkled(Random random) {
        StringBuilder out = new StringBuilder("<t:Root xmlns:t=\"urn:t\" xmlns:unused=\"urn:unused\" strange=\"1\">");
        out.append(oddity(random));
        out.append("<t:a><![CDATA[ <raw> & ]]>").append("<!--in-->").append("tail </t:a>");
        for (int i = 0; i < random.nextInt(30); i++) {
            out.append("<t:leg km=\"").append(i).append(".50\">").append(oddity(random));
            out.append("<t:hut> H")
                    .append(i)
                    .append(" </t:hut>")
                    .append(oddity(random))
                    .append("</t:leg>");
            if (random.nextInt(3) == 0) {
                out.append(oddity(random));
            }
        }
        return out.append(oddity(random)).append("</t:Root>").toString();
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20})
    void whatIsOpenedIsWrittenTheSameCharacterForCharacter(long seed) {
        String text = sprinkled(new Random(seed));
        assertThat(Sheet.open(outline, text).text()).isEqualTo(text);
        Sheet looked = Sheet.open(outline, text);
        assertThat(Sheets.all(looked)).isNotEmpty();
        assertThat(looked.text()).as("looking at the rows changes nothing").isEqualTo(text);
    }

    @ParameterizedTest
    @ValueSource(longs = {31, 32, 33, 34, 35, 36, 37, 38, 39, 40})
    void editsOfKnownPartsLoseNothingThatIsUnknown(long seed) {
        Random random = new Random(seed);
        Sheet sheet = Sheet.open(outline, sprinkled(random));
        for (int i = 0; i < 25; i++) {
            List<SheetRow> rows = Sheets.all(sheet);
            SheetRow row = rows.get(random.nextInt(rows.size()));
            switch (random.nextInt(5)) {
                case 0 -> sheet.fill(Detail.FULL);
                case 1 -> sheet.include(row);
                case 2 -> {
                    if (row.canRepeat()) {
                        sheet.addRepeat(row);
                    }
                }
                case 3 -> sheet.move(row, random.nextBoolean() ? 1 : -1);
                default -> {
                    if (row.editable() && ("hut".equals(row.label()) || "a".equals(row.label()))) {
                        sheet.setValue(row, "v" + i);
                    }
                }
            }
            if (random.nextBoolean()) {
                String now = sheet.text();
                assertThat(Sheets.pictures(sheet)).isEqualTo(Sheets.pictures(Sheet.open(outline, now)));
            }
        }
        String text = sheet.text();
        for (String each : odd) {
            assertThat(text).as("seed %s", seed).contains(each.strip());
        }
        assertThat(Sheet.open(outline, text).text()).isEqualTo(text);
    }
}
