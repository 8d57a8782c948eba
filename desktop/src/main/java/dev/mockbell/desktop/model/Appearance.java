package dev.mockbell.desktop.model;

import dev.mockbell.choice.Choice;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;

/** How the window looks: light or dark, by itself or as the system does, and how large. Remembered for all windows. */
public final class Appearance {
    /** The sizes to choose from, in per cent. */
    public static final List<Integer> SIZES = List.of(100, 125, 150, 175, 200);

    private static final String THEME = "theme";

    /** Under which the size is remembered. */
    private static final String SIZE = "size";

    /** Under which is remembered what the system wanted when it was last asked, so that a window does not begin as another. */
    private static final String SYSTEM_DARK = "system-dark";

    private static final long REST_NANOS = 2_000_000_000L;

    /** Light or dark. */
    public enum Theme implements Choice {
        SYSTEM("system", "As the system"),
        LIGHT("light", "Light"),
        DARK("dark", "Dark");

        private final String code;
        private final String title;

        Theme(String code, String title) {
            this.code = code;
            this.title = title;
        }

        @Override
        public String code() {
            return code;
        }

        @Override
        public String title() {
            return title;
        }
    }

    private final Desk desk;
    private final Map<String, String> environment;
    private final ReadOnlyBooleanWrapper dark = new ReadOnlyBooleanWrapper();
    private boolean systemIsDark;
    private boolean asking;
    private boolean follows;
    private long asked;

    /** @param environment variables of the process */
    Appearance(Desk desk, Map<String, String> environment) {
        this.desk = desk;
        this.environment = Map.copyOf(environment);
        this.systemIsDark = Boolean.parseBoolean(desk.habits().get(SYSTEM_DARK, ""));
        show();
    }

    /**
     * Whether a window begins dark, for before its project is read.
     *
     * @param habits what is remembered
     */
    static boolean dark(Properties habits) {
        Theme theme = Choice.of(Theme.class, habits.getProperty(THEME, ""), Theme.SYSTEM);
        return theme == Theme.DARK
                || theme == Theme.SYSTEM && Boolean.parseBoolean(habits.getProperty(SYSTEM_DARK, ""));
    }

    /** Whether the window is dark. */
    public ReadOnlyBooleanProperty darkProperty() {
        return dark.getReadOnlyProperty();
    }

    /** What was chosen. */
    public Theme theme() {
        return Choice.of(Theme.class, desk.habits().get(THEME, Theme.SYSTEM.code()), Theme.SYSTEM);
    }

    /** Chooses. */
    public void choose(Theme theme) {
        desk.habits().set(THEME, theme.code());
        show();
        look();
    }

    /** From the one that is shown to the other. */
    public void turn() {
        choose(dark.get() ? Theme.LIGHT : Theme.DARK);
    }

    /** Goes by the system from now on, where that was chosen; the system is asked again whenever the window is come back to. */
    public void follow() {
        follows = true;
        look();
    }

    /** Asks the system what it wants by now, but not at every moment. */
    public void look() {
        if (!follows || theme() != Theme.SYSTEM || asking || asked != 0 && System.nanoTime() - asked < REST_NANOS) {
            return;
        }
        asking = true;
        desk.tasks()
                .run(
                        () -> SystemTheme.isDark(environment),
                        is -> {
                            asking = false;
                            asked = System.nanoTime();
                            systemIsDark = is;
                            desk.habits().set(SYSTEM_DARK, String.valueOf(is));
                            show();
                        },
                        problem -> asking = false);
    }

    private void show() {
        Theme theme = theme();
        dark.set(theme == Theme.DARK || theme == Theme.SYSTEM && systemIsDark);
    }

    /** How large everything is, in per cent; 0 for as the system says. */
    public int size() {
        return size(desk.habits().get(SIZE, "0"));
    }

    private static int size(String text) {
        return SIZES.stream()
                .filter(s -> String.valueOf(s).equals(text))
                .findFirst()
                .orElse(0);
    }

    /** How large everything is to be; counts from the next start on, since the toolkit takes it then. */
    public void size(int percent) {
        desk.habits().set(SIZE, String.valueOf(percent));
        desk.tell(Notice.plain("The next time Mock Bell starts, everything has "
                + (percent == 0 ? "the system's size" : percent + " %") + "."));
    }

    /**
     * The size that was chosen, for the toolkit before it starts.
     *
     * @param habits what is remembered
     * @return in per cent; 0 for as the system says
     */
    static int chosen(Properties habits) {
        return size(habits.getProperty(SIZE, "0"));
    }
}
