const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);

// Parts of the component library ask for icon families that are not used here: words stand in their place.
const ICONS = /^(@react-native-vector-icons\/|react-native-vector-icons\/|@expo\/vector-icons)/;
// Lists that draw only what is in sight: nothing here uses them, and they are a tenth of the first script.
const LISTS =
  /(vendor\/react-native|exports|\.)\/(VirtualizedList|VirtualizedSectionList|FlatList|SectionList)$/;
config.resolver.resolveRequest = (context, name, platform) =>
  ICONS.test(name) || LISTS.test(name)
    ? { type: 'empty' }
    : context.resolveRequest(context, name, platform);

module.exports = config;
