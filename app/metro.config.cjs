const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);

// Parts of the component library ask for icon families that are not used here: words stand in their place.
const ICONS = /^(@react-native-vector-icons\/|react-native-vector-icons\/|@expo\/vector-icons)/;
// Lists that draw only what is in sight: nothing here uses them, and they are a tenth of the first script.
const LISTS =
  /(vendor\/react-native|exports|\.)\/(VirtualizedList|VirtualizedSectionList|FlatList|SectionList)$/;
// Rows that are swiped, typed into or hold buttons: the library loads them with every other row.
const ROWS = /ListItem\.(Swipeable|ButtonGroup|Input)$/;
const NOTHING = require('node:path').join(__dirname, 'src/ui/nothing.ts');
config.resolver.resolveRequest = (context, name, platform) => {
  if (ICONS.test(name) || LISTS.test(name)) return { type: 'empty' };
  if (ROWS.test(name)) return { type: 'sourceFile', filePath: NOTHING };
  return context.resolveRequest(context, name, platform);
};

module.exports = config;
